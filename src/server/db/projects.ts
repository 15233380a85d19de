import type { Project, RemovedProject, TableLayout } from '@/wire';
import type { Join } from '@/core/join/plan';
import type { Db } from './open';

/** Ids of assignments. */
interface AsTwin {
  from: number;
  to: number;
}

/** What the copy of a cell belongs to. */
interface CopiedCell {
  soundId: number;
  projectId: number;
  buildId: number;
}

const SELECT = 'SELECT id, name, createdAt FROM projects';

export function projectStatements(db: Db) {
  const insert = db.prepare<[string, string]>(
    'INSERT INTO projects (name, createdAt) VALUES (?, ?)',
  );
  const SHOWN = 'removedAt IS NULL AND isPartial = 0';
  const all = db.prepare<[], Project>(`${SELECT} WHERE ${SHOWN} ORDER BY id`);
  const byId = db.prepare<[number], Project>(`${SELECT} WHERE id = ? AND ${SHOWN}`);
  const setPartial = db.prepare<[0 | 1, number]>('UPDATE projects SET isPartial = ? WHERE id = ?');
  const partial = db.prepare<[], number>('SELECT id FROM projects WHERE isPartial = 1').pluck();
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
     SELECT ?, briefId, choices FROM assignments WHERE id = ?`,
  );
  const copyOutputs = db.prepare<[AsTwin & { buildId: number }]>(
    `INSERT INTO outputs (buildId, assignmentId, fileId, encodingId)
     SELECT @buildId, @to, fileId, encodingId FROM outputs JOIN encodings ON encodings.id = encodingId
     WHERE assignmentId = @from AND state = 'done' AND NOT EXISTS (SELECT 1 FROM outputs AS newer
       WHERE newer.assignmentId = @from AND newer.fileId = outputs.fileId AND newer.id > outputs.id)`,
  );
  // What is known of a cell is known of its twin, as far as the same was copied.
  const copyCell = db.prepare<[AsTwin & { projectId: number; soundId: number }]>(
    `INSERT INTO cells (id, projectId, soundId, briefId, isListed, basis, need, seconds, state, finished,
       missing, bytes, clips, rehearsed, revision)
     SELECT @to, @projectId, @soundId, briefId, 1, basis, need, seconds, state, finished,
       missing, bytes, clips, NULL, (SELECT latest FROM revisions) FROM cells
     WHERE id = @from AND isListed = 1 AND NOT EXISTS (SELECT 1 FROM staleCells WHERE id = @from)
       AND state IN ('fits', 'convert', 'decide', 'cannot', 'built', 'outdated')`,
  );
  const copyFiles = db.prepare<[AsTwin & { projectId: number }]>(
    `INSERT INTO cellFiles SELECT @to, fileId, @projectId, briefId, key, naming, counted, wanted, given, passed,
       meets, name, path, paths, sha256, verdict, clips, bytes, told, sizeKey, bytesPerSecond
     FROM cellFiles WHERE cellId = @from`,
  );
  const settle = db.prepare<[number]>('DELETE FROM staleCells WHERE id = ?');
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
    /** Hides one that is still being made, or shows it. */
    setPartial: (id: number, isPartial: boolean) => void setPartial.run(isPartial ? 1 : 0, id),
    partial: () => partial.all(),
    copyLayout: (from: number, to: number) => void copyLayout.run(from, to),
    /** Ids of the sounds that are copied with a project. */
    listed: (id: number) => listed.all(id),
    /** The same sound in another project; answers its id. */
    copySound: (soundId: number, projectId: number) =>
      Number(copySound.run(projectId, soundId).lastInsertRowid),
    setJoin: (soundId: number, join: Join) => void setJoin.run(JSON.stringify(join), soundId),
    /** Where a sound goes, for its twin: with what was built for it, and what is known of that. */
    copyCell(from: number, { soundId, projectId, buildId }: CopiedCell): void {
      const to = Number(copySent.run(soundId, from).lastInsertRowid);
      copyOutputs.run({ from, to, buildId });
      const isKnown = copyCell.run({ from, to, soundId, projectId }).changes > 0;
      if (!isKnown) return;
      copyFiles.run({ from, to, projectId });
      settle.run(to);
    },
    layout: (id: number) => JSON.parse(layout.get(id) ?? '{}') as TableLayout,
    setLayout: (id: number, value: TableLayout) => void setLayout.run(JSON.stringify(value), id),
  };
}
