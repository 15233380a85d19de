import type { Project, RemovedProject, TableLayout } from '@/wire';
import type { Join } from '@/core/join/plan';
import type { Db } from './open';

/** A sound that is in another project as well. */
export interface Twin {
  id: number;
  isBeingRead: boolean;
  join: Join | null;
}

const SELECT = 'SELECT id, name, createdAt FROM projects';

/** A sound is sent somewhere by that assignment. */
type Sent = readonly [assignmentId: number, soundId: number];

export function projectStatements(db: Db) {
  const insert = db.prepare<[string, string]>(
    'INSERT INTO projects (name, createdAt) VALUES (?, ?)',
  );
  const SHOWN = 'removedAt IS NULL AND isPartial = 0';
  const all = db.prepare<[], Project>(`${SELECT} WHERE ${SHOWN} ORDER BY id`);
  const names = db.prepare<[], string>('SELECT name FROM projects WHERE removedAt IS NULL').pluck();
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
  const copySound = db.prepare<
    [number, number],
    { id: number; state: string; join: string | null }
  >(
    `INSERT INTO sounds (projectId, name, fileName, sourceSha256, recipe, state, error, addedAt, "group", labels,
       note, language, folder, setAside, tempo, "join", joined, outcome)
     SELECT ?, name, fileName, sourceSha256, recipe, state, error, addedAt, "group", labels,
       note, language, folder, setAside, tempo, "join", joined, outcome FROM sounds WHERE id = ?
     RETURNING id, state, "join"`,
  );
  const setJoin = db.prepare<[string, number]>('UPDATE sounds SET "join" = ? WHERE id = ?');
  // Many at once: @sent are assignments with the sounds that their twins are of, @twins are both of each pair.
  const PAIRS = (name: string) =>
    `(SELECT value ->> 0 AS "from", value ->> 1 AS "to" FROM json_each(@${name}))`;
  const sent = db
    .prepare<[number], [assignmentId: number, soundId: number]>(
      `SELECT assignments.id, soundId FROM assignments JOIN sounds ON sounds.id = soundId
       WHERE projectId = ? AND removedAt IS NULL AND sent = 1 ORDER BY assignments.id`,
    )
    .raw();
  const copySent = db.prepare<[{ sent: string }]>(
    `INSERT INTO assignments (soundId, briefId, choices)
     SELECT "to", briefId, choices FROM ${PAIRS('sent')} JOIN assignments ON id = "from" ORDER BY id`,
  );
  const twinsOf = db
    .prepare<[{ sent: string }], [from: number, to: number]>(
      `SELECT "from", twin.id FROM ${PAIRS('sent')} JOIN assignments AS own ON own.id = "from"
         JOIN assignments AS twin ON twin.soundId = "to" AND twin.briefId = own.briefId`,
    )
    .raw();
  const copyOutputs = db.prepare<[{ twins: string; buildId: number }]>(
    `INSERT INTO outputs (buildId, assignmentId, fileId, encodingId)
     SELECT @buildId, "to", fileId, encodingId FROM ${PAIRS('twins')} JOIN outputs ON assignmentId = "from"
       JOIN encodings ON encodings.id = encodingId
     WHERE state = 'done' AND NOT EXISTS (SELECT 1 FROM outputs AS newer
       WHERE newer.assignmentId = "from" AND newer.fileId = outputs.fileId AND newer.id > outputs.id)`,
  );
  // What is known of a cell is known of its twin, as far as the same was copied: nothing that has changed since.
  const copyCells = db.prepare<[{ twins: string; projectId: number; since: number }]>(
    `INSERT INTO cells (id, projectId, soundId, briefId, isListed, basis, need, seconds, state, finished,
       missing, bytes, clips, rehearsed, revision)
     SELECT "to", @projectId, assignments.soundId, cells.briefId, 1, basis, need, seconds, state, finished,
       missing, bytes, clips, NULL, (SELECT latest FROM revisions)
     FROM ${PAIRS('twins')} JOIN cells ON cells.id = "from" JOIN assignments ON assignments.id = "to"
     WHERE isListed = 1 AND cells.revision <= @since AND NOT EXISTS (SELECT 1 FROM staleCells WHERE id = "from")
       AND state IN ('fits', 'convert', 'decide', 'cannot', 'built', 'outdated')`,
  );
  const copyFiles = db.prepare<[{ twins: string; projectId: number }]>(
    `INSERT INTO cellFiles SELECT "to", fileId, @projectId, cellFiles.briefId, key, naming, counted, wanted, given,
       passed, meets, name, path, paths, sha256, verdict, cellFiles.clips, cellFiles.bytes, told, sizeKey,
       bytesPerSecond
     FROM ${PAIRS('twins')} JOIN cells ON cells.id = "to" JOIN cellFiles ON cellId = "from"`,
  );
  const settle = db.prepare<[{ twins: string }]>(
    `DELETE FROM staleCells WHERE id IN (SELECT "to" FROM ${PAIRS('twins')} JOIN cells ON cells.id = "to")`,
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
    /** Those of copies that are still being made included. */
    names: () => names.all(),
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
    /** Where the sounds of a project are sent, in the order in which they were. */
    sent: (id: number): Sent[] => sent.all(id),
    /** The same sound in another project. */
    copySound(soundId: number, projectId: number): Twin {
      const { id, state, join } = copySound.get(projectId, soundId)!;
      return {
        id,
        isBeingRead: state === 'reading',
        join: join === null ? null : (JSON.parse(join) as Join),
      };
    },
    setJoin: (soundId: number, join: Join) => void setJoin.run(JSON.stringify(join), soundId),
    /**
     * Where sounds go, for their twins: with what was built for them, and what is known of that.
     * @param sent Assignments, each with the sound that its twin is of.
     * @param since The revision at which copying began.
     */
    copyCells(
      sent: readonly Sent[],
      { projectId, buildId, since }: { projectId: number; buildId: number; since: number },
    ): void {
      const pairs = { sent: JSON.stringify(sent) };
      copySent.run(pairs);
      const twins = JSON.stringify(twinsOf.all(pairs));
      copyOutputs.run({ twins, buildId });
      copyCells.run({ twins, projectId, since });
      copyFiles.run({ twins, projectId });
      settle.run({ twins });
    },
    layout: (id: number) => JSON.parse(layout.get(id) ?? '{}') as TableLayout,
    setLayout: (id: number, value: TableLayout) => void setLayout.run(JSON.stringify(value), id),
  };
}
