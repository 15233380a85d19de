import type { Db } from './open';

/** What is other than written: what has come of a cell, or anything about it. */
export const STALE = { outcome: 1, all: 2 } as const;

export interface StaleCell {
  id: number;
  depth: (typeof STALE)[keyof typeof STALE];
}

/** Statements on cells whose rows are out of date, as triggers say. */
export function staleCellStatements(db: Db) {
  const fresh = db.prepare<[number], StaleCell>(
    'SELECT id, depth FROM staleCells WHERE isSaid = 0 ORDER BY id LIMIT ?',
  );
  const first = db.prepare<[number], StaleCell>(
    'SELECT id, depth FROM staleCells ORDER BY id LIMIT ?',
  );
  const among = db.prepare<[string], StaleCell>(
    'SELECT id, depth FROM staleCells WHERE id IN (SELECT value FROM json_each(?)) ORDER BY id',
  );
  const ofBrief = db.prepare<[number, string, number], StaleCell>(
    `SELECT staleCells.id, depth FROM cells CROSS JOIN staleCells ON staleCells.id = cells.id
     WHERE projectId = ? AND briefId = ? ORDER BY cells.id LIMIT ?`,
  );
  const isAny = db
    .prepare<[], 0 | 1>(
      'SELECT EXISTS (SELECT 1 FROM staleCells) OR EXISTS (SELECT 1 FROM staleNames)',
    )
    .pluck();
  const cost = db
    .prepare<[number], number>(
      `SELECT coalesce(sum(CASE depth WHEN ${STALE.all} THEN 8 ELSE 1 END), 0)
       FROM (SELECT depth FROM staleCells WHERE isSaid = 0 LIMIT ?)`,
    )
    .pluck();
  const settle = db.prepare<[string]>(
    'DELETE FROM staleCells WHERE id IN (SELECT value FROM json_each(?))',
  );
  const sayStale = db.prepare<[number]>(
    `UPDATE cells SET state = 'checking', revision = ?
     WHERE id IN (SELECT id FROM staleCells WHERE isSaid = 0) AND state <> 'checking' AND isListed = 1`,
  );
  // What has no row yet is told of as well.
  const addStale = db.prepare<[number]>(
    `INSERT INTO cells (id, projectId, soundId, briefId, isListed, state, revision)
     SELECT assignments.id, projectId, soundId, briefId, 1, 'checking', ?
     FROM staleCells JOIN assignments ON assignments.id = staleCells.id JOIN sounds ON sounds.id = soundId
       JOIN sources ON sources.sha256 = sourceSha256
     WHERE isSaid = 0 AND sent = 1 AND removedAt IS NULL AND facts IS NOT NULL
       AND NOT EXISTS (SELECT 1 FROM cells WHERE cells.id = staleCells.id)`,
  );
  const said = db.prepare('UPDATE staleCells SET isSaid = 1 WHERE isSaid = 0');
  const names = db.prepare<[], { projectId: number; briefId: string }>('SELECT * FROM staleNames');
  const areNames = db
    .prepare<[number, string], 0 | 1>(
      'SELECT EXISTS (SELECT 1 FROM staleNames WHERE projectId = ? AND briefId = ?)',
    )
    .pluck();
  const outdateNames = db.prepare<[number, string]>(
    'INSERT OR IGNORE INTO staleNames VALUES (?, ?)',
  );
  const settleNames = db.prepare<[number, string]>(
    'DELETE FROM staleNames WHERE projectId = ? AND briefId = ?',
  );
  const outdateAll = db.prepare(
    `INSERT INTO staleCells (id, depth) SELECT id, ${STALE.all} FROM cells WHERE true
     ON CONFLICT (id) DO UPDATE SET depth = ${STALE.all}`,
  );
  const outdateAllNames = db.prepare(
    'INSERT OR IGNORE INTO staleNames SELECT DISTINCT projectId, briefId FROM cells',
  );
  const judges = db.prepare<[], string>('SELECT version FROM judges').pluck();
  const dropJudges = db.prepare('DELETE FROM judges');
  const setJudges = db.prepare<[string]>('INSERT INTO judges VALUES (?)');
  return {
    isAny: () => isAny.get() === 1,
    /** The first of those whose rows do not say so yet. */
    fresh: (most: number) => fresh.all(most),
    first: (most: number) => first.all(most),
    /** The first of those that go to a destination. */
    ofBrief: (projectId: number, briefId: string, most: number) =>
      ofBrief.all(projectId, briefId, most),
    among: (ids: readonly number[]) => among.all(JSON.stringify(ids)),
    /** What working out anew takes of those that do not say so, by what it takes for what has come of one cell. */
    cost: (mostCells: number) => cost.get(mostCells)!,
    settle: (ids: readonly number[]) => void settle.run(JSON.stringify(ids)),
    /** Has those say so that are not worked out at once. */
    say(revision: number): void {
      sayStale.run(revision);
      addStale.run(revision);
      said.run();
    },
    /** Destinations whose names are to be given anew. */
    names: () => names.all(),
    areNames: (projectId: number, briefId: string) => areNames.get(projectId, briefId) === 1,
    outdateNames: (projectId: number, briefId: string) => void outdateNames.run(projectId, briefId),
    settleNames: (projectId: number, briefId: string) => void settleNames.run(projectId, briefId),
    /** Makes all rows stale that others than these have judged. */
    judgedBy(version: string): void {
      if (judges.get() === version) return;
      outdateAll.run();
      outdateAllNames.run();
      dropJudges.run();
      setJudges.run(version);
    },
  };
}
