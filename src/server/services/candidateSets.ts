import type { Candidate } from '@/core/compare/candidates/candidate';
import { BijouError } from '@/core/errors';
import type { OwnCandidateSet } from '@/wire';
import type { Context } from '../context';
import { projectById } from './lookUp';

/** More than a menu holds. */
const MOST_SETS = 100;

/** Sets of candidates that people keep. */
export function candidateSetService({ db }: Pick<Context, 'db'>) {
  const list = (projectId: number): OwnCandidateSet[] =>
    db.candidateSets.of(projectById(db, projectId).id);

  /** Keeps a set under a name, in place of one that has it. @throws bad-setting, too-large */
  function keep(projectId: number, name: string, candidates: readonly Candidate[]) {
    const before = list(projectId);
    if (candidates.length === 0) {
      throw new BijouError('bad-setting', 'No candidate is chosen.', 'Choose at least one.');
    }
    if (before.length >= MOST_SETS && !before.some((set) => set.name === name)) {
      throw new BijouError('too-large', `${MOST_SETS} sets are kept already.`, 'Delete one first.');
    }
    db.candidateSets.put(projectId, name, candidates);
    return list(projectId);
  }

  function forget(projectId: number, id: number) {
    db.candidateSets.forget(projectId, id);
    return list(projectId);
  }

  return { list, keep, forget };
}
