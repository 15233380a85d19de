import type { Candidate } from '@/core/compare/candidates/candidate';
import { allowedBy } from '@/core/compare/candidates/allowed';
import { readySets, stepsAround } from '@/core/compare/candidates/sets';
import { namedCandidate, parseCandidate } from '@/core/compare/candidates/text';
import { BijouError } from '@/core/errors';
import type { CandidateSets, NamedCandidateSet } from '@/wire';
import type { Context } from '../context';
import { projectById } from './lookUp';

/** More than a menu holds. */
const MOST_SETS = 100;

/** Sets of candidates that people keep. */
/** With what people call its candidates. */
function named<
  Set extends { id: string | number; name: string; candidates: readonly Candidate[] },
>({ id, name, candidates }: Set): NamedCandidateSet {
  return { id, name, candidates: candidates.map(namedCandidate) };
}

export function candidateSetService({ db, briefs }: Pick<Context, 'db' | 'briefs'>) {
  const list = (projectId: number): CandidateSets => ({
    ready: readySets.map(named),
    own: db.candidateSets.of(projectById(db, projectId).id).map(named),
    // Destinations to which something goes stand first.
    allowed: byUse(projectId).map((brief) =>
      named({ id: `brief ${brief.id}`, name: brief.title, candidates: allowedBy(brief) }),
    ),
  });

  function byUse(projectId: number) {
    const used = new Set(db.packs.assignments(projectId).map(({ briefId }) => briefId));
    const all = briefs(projectId);
    return [...all.filter(({ id }) => used.has(id)), ...all.filter(({ id }) => !used.has(id))];
  }

  /** Keeps a set under a name, in place of one that has it. @throws bad-setting, too-large */
  function keep(projectId: number, name: string, candidates: readonly Candidate[]) {
    const before = list(projectId).own;
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

  return {
    ...{ list, keep, forget },
    /** Candidates as they are written. @throws wrong-call */
    read: (texts: readonly string[]) => texts.map(parseCandidate).map(namedCandidate),
    /** Fine steps around one. */
    around: (candidate: Candidate) => stepsAround(candidate).map(namedCandidate),
  };
}
