import type { ErrorFacts } from '@/core/errors';
import type { PackedFile, PackState, PackSummary } from '@/wire';
import type { Db } from './open';

/** A pack as it was made, or as far as it is. */
export interface PackRow extends PackSummary {
  projectId: number;
  removedAt: string | null;
}

type StoredPack = Omit<PackRow, 'briefs' | 'error'> & { briefs: string; error: string | null };

function revive({ briefs, error, ...row }: StoredPack): PackRow {
  return {
    ...row,
    briefs: JSON.parse(briefs) as string[],
    error: error === null ? null : (JSON.parse(error) as ErrorFacts),
  };
}

/** Statements on packs and on the files in them. */
export function madePackStatements(db: Db) {
  const add = db.prepare<[number, string, string, string]>(
    `INSERT INTO packs (projectId, title, briefs, state, createdAt) VALUES (?, ?, ?, 'waiting', ?)`,
  );
  const byId = db.prepare<[number], StoredPack>('SELECT * FROM packs WHERE id = ?');
  const ofProject = db.prepare<[number], StoredPack>(
    'SELECT * FROM packs WHERE projectId = ? AND removedAt IS NULL ORDER BY id DESC',
  );
  const setState = db.prepare<
    [{ id: number; state: PackState; error: string | null; digest: string | null }]
  >(
    `UPDATE packs SET state = @state, error = @error, digest = @digest, (files, bytes) =
       (SELECT count(*), coalesce(sum(bytes), 0) FROM packedFiles WHERE packId = @id) WHERE id = @id`,
  );
  const setRemoved = db.prepare<[string | null, number]>(
    'UPDATE packs SET removedAt = ? WHERE id = ?',
  );
  const removedBefore = db
    .prepare<[string], number>('SELECT id FROM packs WHERE removedAt < ?')
    .pluck();
  const forget = db.prepare<[number]>('DELETE FROM packs WHERE id = ?');
  const clearFiles = db.prepare<[number]>('DELETE FROM packedFiles WHERE packId = ?');
  const addFile = db.prepare<[PackedFile & { packId: number }]>(
    `INSERT INTO packedFiles (packId, path, kind, briefId, sha256, bytes, mimeType, soundId)
     VALUES (@packId, @path, @kind, @briefId, @sha256, @bytes, @mimeType, @soundId)`,
  );
  const filesOfProject = db
    .prepare<[number], string>(
      'SELECT DISTINCT sha256 FROM packedFiles JOIN packs ON packs.id = packId WHERE projectId = ?',
    )
    .pluck();
  const removedOf = db
    .prepare<[number], number>('SELECT id FROM packs WHERE projectId = ? AND removedAt IS NOT NULL')
    .pluck();
  const unfinished = db.prepare<[], { id: number; projectId: number }>(
    "SELECT id, projectId FROM packs WHERE state = 'packing'",
  );
  const waiting = db
    .prepare<[number], number>("SELECT id FROM packs WHERE projectId = ? AND state = 'waiting'")
    .pluck();
  const files = db.prepare<[number], PackedFile>(
    `SELECT path, kind, briefId, sha256, bytes, mimeType, soundId FROM packedFiles
     WHERE packId = ? ORDER BY path`,
  );
  const file = db.prepare<[number, string], PackedFile>(
    `SELECT path, kind, briefId, sha256, bytes, mimeType, soundId FROM packedFiles
     WHERE packId = ? AND path = ?`,
  );
  const news = db.prepare<[number], { count: number; newest: number; states: string }>(
    `SELECT count(*) AS count, coalesce(max(id), 0) AS newest,
       coalesce(group_concat(state), '') AS states FROM packs WHERE projectId = ? AND removedAt IS NULL`,
  );
  return {
    add: (projectId: number, title: string, briefs: readonly string[]) =>
      Number(
        add.run(projectId, title, JSON.stringify(briefs), new Date().toISOString()).lastInsertRowid,
      ),
    byId(id: number): PackRow | undefined {
      const row = byId.get(id);
      return row && revive(row);
    },
    /** Newest first. */
    of: (projectId: number) => ofProject.all(projectId).map(revive),
    setState: (
      id: number,
      state: PackState,
      { error = null, digest = null }: { error?: ErrorFacts | null; digest?: string | null } = {},
    ) => void setState.run({ id, state, error: error && JSON.stringify(error), digest }),
    /** Out of the list since then; null for in it. */
    setRemoved: (id: number, at: string | null) => void setRemoved.run(at, id),
    removedBefore: (at: string) => removedBefore.all(at),
    /** Those of a project that are in no list any more. */
    removedOf: (projectId: number) => removedOf.all(projectId),
    /** Every stored file that is in a pack of a project. */
    filesOfProject: (projectId: number) => filesOfProject.all(projectId),
    forget: (id: number) => void forget.run(id),
    /** Forgets what was put into a pack that was not finished. */
    clearFiles: (packId: number) => void clearFiles.run(packId),
    addFile: (packId: number, row: PackedFile) => void addFile.run({ ...row, packId }),
    /** In the order of their paths. */
    files: (packId: number) => files.all(packId),
    file: (packId: number, path: string) => file.get(packId, path),
    /** Those that a job should be putting together. */
    unfinished: () => unfinished.all(),
    /** Those whose files are still being made. */
    waiting: (projectId: number) => waiting.all(projectId),
    news(projectId: number) {
      const { count, newest, states } = news.get(projectId)!;
      return { count, version: `${count} ${newest} ${states}` };
    },
  };
}
