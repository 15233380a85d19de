import type { Project, RemovedProject, TableLayout } from '@/wire';
import type { Join } from '@/core/join/plan';
import type { Db } from './open';

const SELECT = 'SELECT id, name, createdAt FROM projects';

export function projectStatements(db: Db) {
  const insert = db.prepare<[string, string]>(
    'INSERT INTO projects (name, createdAt) VALUES (?, ?)',
  );
  const all = db.prepare<[], Project>(`${SELECT} WHERE removedAt IS NULL ORDER BY id`);
  const byId = db.prepare<[number], Project>(`${SELECT} WHERE id = ? AND removedAt IS NULL`);
  const removed = db.prepare<[], RemovedProject>(
    'SELECT id, name, createdAt, removedAt FROM projects WHERE removedAt IS NOT NULL ORDER BY removedAt DESC',
  );
  const rename = db.prepare<[string, number]>('UPDATE projects SET name = ? WHERE id = ?');
  const setRemoved = db.prepare<[string | null, number]>(
    'UPDATE projects SET removedAt = ? WHERE id = ?',
  );
  // From what hangs on others to what others hang on. Outputs go with their assignments, arrivals with their intakes.
  const forget = [
    'DELETE FROM jobs WHERE projectId = ?',
    'DELETE FROM changes WHERE projectId = ?',
    'DELETE FROM assignments WHERE soundId IN (SELECT id FROM sounds WHERE projectId = ?)',
    'DELETE FROM builds WHERE projectId = ?',
    'DELETE FROM intakes WHERE projectId = ?',
    'UPDATE sounds SET replaces = NULL WHERE projectId = ?',
    'DELETE FROM sounds WHERE projectId = ?',
    'DELETE FROM projects WHERE id = ?',
  ].map((sql) => db.prepare<[number]>(sql));
  const copyLayout = db.prepare<[number, number]>(
    'UPDATE projects SET tableLayout = (SELECT tableLayout FROM projects WHERE id = ?) WHERE id = ?',
  );
  const listed = db
    .prepare<[number], number>(
      `SELECT id FROM sounds
       WHERE projectId = ? AND removedAt IS NULL AND replaces IS NULL AND state <> 'refused' ORDER BY id`,
    )
    .pluck();
  const copySound = db.prepare<[number, number]>(
    `INSERT INTO sounds (projectId, name, fileName, sourceSha256, recipe, state, error, addedAt, "group", labels,
       note, language, folder, setAside, tempo, "join", joined, outcome)
     SELECT ?, name, fileName, sourceSha256, recipe, state, error, addedAt, "group", labels,
       note, language, folder, setAside, tempo, "join", joined, outcome FROM sounds WHERE id = ?`,
  );
  const setJoin = db.prepare<[string, number]>('UPDATE sounds SET "join" = ? WHERE id = ?');
  const copySent = db.prepare<[number, number]>(
    `INSERT INTO assignments (soundId, briefId, choices)
     SELECT ?, briefId, choices FROM assignments WHERE soundId = ? AND sent = 1 ORDER BY id`,
  );
  const copyOutputs = db.prepare<[number, number, number]>(
    `INSERT INTO outputs (buildId, assignmentId, fileId, encodingId)
     SELECT ?, own.id, fileId, encodingId
     FROM outputs JOIN assignments AS other ON other.id = assignmentId
       JOIN assignments AS own ON own.briefId = other.briefId AND own.soundId = ?
     WHERE other.soundId = ? AND outputs.id IN (SELECT max(id) FROM outputs GROUP BY assignmentId, fileId)
       AND encodingId IN (SELECT id FROM encodings WHERE state = 'done')`,
  );
  const layout = db
    .prepare<[number], string>('SELECT tableLayout FROM projects WHERE id = ?')
    .pluck();
  const setLayout = db.prepare<[string, number]>(
    'UPDATE projects SET tableLayout = ? WHERE id = ?',
  );
  return {
    add: (name: string) => Number(insert.run(name, new Date().toISOString()).lastInsertRowid),
    all: () => all.all(),
    byId: (id: number) => byId.get(id),
    /** Those that were deleted and can still be brought back, the latest first. */
    removed: () => removed.all(),
    rename: (id: number, name: string) => void rename.run(name, id),
    remove: (id: number) => void setRemoved.run(new Date().toISOString(), id),
    bringBack: (id: number) => void setRemoved.run(null, id),
    /** Deletes a project with everything that hangs on it. */
    forget(id: number): void {
      for (const statement of forget) statement.run(id);
    },
    copyLayout: (from: number, to: number) => void copyLayout.run(from, to),
    /** Ids of the sounds that are copied with a project. */
    listed: (id: number) => listed.all(id),
    /** The same sound in another project; answers its id. */
    copySound: (soundId: number, projectId: number) =>
      Number(copySound.run(projectId, soundId).lastInsertRowid),
    setJoin: (soundId: number, join: Join) => void setJoin.run(JSON.stringify(join), soundId),
    copySent: (from: number, to: number) => void copySent.run(to, from),
    /** What was built of one sound is there for its copy as well. */
    copyOutputs: (from: number, to: number, buildId: number) =>
      void copyOutputs.run(buildId, to, from),
    layout: (id: number) => JSON.parse(layout.get(id) ?? '{}') as TableLayout,
    setLayout: (id: number, value: TableLayout) => void setLayout.run(JSON.stringify(value), id),
  };
}
