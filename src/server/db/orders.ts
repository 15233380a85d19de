import type { Rank } from '../jobs/ranks';
import type { Db } from './open';

/** A sound at a destination that is to be built as a part of a build. */
interface OrderRow {
  assignmentId: number;
  buildId: number;
  projectId: number;
  rank: Rank;
}

/** Statements on what is to be built and is not queued yet. */
export function orderStatements(db: Db) {
  const put = db.prepare<[number, Rank, string]>(
    `INSERT INTO orders (assignmentId, buildId, rank, files)
     SELECT value, ?, ?, (SELECT count(*) FROM cellFiles WHERE cellId = value) FROM json_each(?) WHERE true
     ON CONFLICT (assignmentId) DO UPDATE SET buildId = excluded.buildId, rank = min(rank, excluded.rank)`,
  );
  const first = db.prepare<[number], OrderRow>(
    `SELECT orders.*, projectId FROM orders JOIN builds ON builds.id = buildId
     WHERE buildId = (SELECT buildId FROM orders ORDER BY rank, buildId LIMIT 1)
     ORDER BY assignmentId LIMIT ?`,
  );
  const drop = db.prepare<[string]>(
    'DELETE FROM orders WHERE assignmentId IN (SELECT value FROM json_each(?))',
  );
  const dropSome = db.prepare<[number, number]>(
    `DELETE FROM orders WHERE assignmentId IN (
       SELECT assignmentId FROM orders
       WHERE buildId IN (SELECT id FROM builds WHERE projectId = ?) LIMIT ?)`,
  );
  const count = db
    .prepare<[number], number>(
      'SELECT count(*) FROM orders WHERE buildId IN (SELECT id FROM builds WHERE projectId = ?)',
    )
    .pluck();
  const filesOf = db
    .prepare<[number], number>('SELECT coalesce(sum(files), 0) FROM orders WHERE buildId = ?')
    .pluck();
  const isAny = db.prepare<[], 0 | 1>('SELECT EXISTS (SELECT 1 FROM orders)').pluck();
  return {
    /** Of what is ordered already, the newer build and the higher rank count. */
    put: (buildId: number, rank: Rank, assignmentIds: readonly number[]) =>
      void put.run(buildId, rank, JSON.stringify(assignmentIds)),
    /** The first of one build, in the order of ranks. */
    first: (most: number) => first.all(most),
    drop: (assignmentIds: readonly number[]) => void drop.run(JSON.stringify(assignmentIds)),
    /** Of a project. Answers whether there may be more. */
    dropSome: (projectId: number, most: number) => dropSome.run(projectId, most).changes === most,
    count: (projectId: number) => count.get(projectId)!,
    /** How many files of a build are not queued yet. */
    filesOf: (buildId: number) => filesOf.get(buildId)!,
    isAny: () => isAny.get() === 1,
  };
}
