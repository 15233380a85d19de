import type { Db } from './open';

/** So many are kept, of all projects. */
const MOST_TRYOUTS = 20;

/** Statements on files that are made only to be heard. */
export function tryoutStatements(db: Db) {
  const add = db.prepare<[number, number]>(
    'INSERT INTO tryouts (soundId, encodingId) VALUES (?, ?)',
  );
  const dropOld = db.prepare(
    `DELETE FROM tryouts WHERE id <= (SELECT max(id) FROM tryouts) - ${MOST_TRYOUTS}`,
  );
  const encoding = db
    .prepare<[number], number>('SELECT encodingId FROM tryouts WHERE id = ?')
    .pluck();
  return {
    /** Answers its id; the oldest go. */
    add(soundId: number, encodingId: number): number {
      const id = Number(add.run(soundId, encodingId).lastInsertRowid);
      dropOld.run();
      return id;
    },
    encodingOf: (id: number) => encoding.get(id),
  };
}
