import type { Candidate } from '@/core/compare/candidates/candidate';
import type { Db } from './open';

/** A set as it is kept. */
export interface StoredCandidateSet {
  id: number;
  name: string;
  candidates: Candidate[];
}

/** Statements on the sets of candidates that people keep in a project. */
export function candidateSetStatements(db: Db) {
  const all = db.prepare<[number], { id: number; name: string; candidates: string }>(
    'SELECT id, name, candidates FROM candidateSets WHERE projectId = ? ORDER BY name',
  );
  const put = db.prepare<[number, string, string]>(
    `INSERT INTO candidateSets (projectId, name, candidates) VALUES (?, ?, ?)
     ON CONFLICT (projectId, name) DO UPDATE SET candidates = excluded.candidates`,
  );
  const forget = db.prepare<[number, number]>(
    'DELETE FROM candidateSets WHERE projectId = ? AND id = ?',
  );
  return {
    of: (projectId: number): StoredCandidateSet[] =>
      all.all(projectId).map(({ candidates, ...row }) => ({
        ...row,
        candidates: JSON.parse(candidates) as Candidate[],
      })),
    /** Keeps a set, in place of one with the same name. */
    put: (projectId: number, name: string, candidates: readonly Candidate[]) =>
      void put.run(projectId, name, JSON.stringify(candidates)),
    forget: (projectId: number, id: number) => void forget.run(projectId, id),
  };
}
