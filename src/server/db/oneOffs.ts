import type { ErrorFacts } from '@/core/errors';
import type { Handover } from '@/core/loop/handover';
import type { Change } from '@/core/oneOff/change';
import type { OneOffWish } from '@/core/oneOff/plan';
import type { Db } from './open';

/** A conversion that was asked for directly. */
export interface OneOffRow {
  id: number;
  projectId: number;
  wish: OneOffWish;
  /** Set where its files belong to one loop. */
  handover: Handover | null;
  createdAt: string;
}

/** One file of it: what is encoded for it, or why it cannot be made. */
export interface OneOffFileRow {
  id: number;
  oneOffId: number;
  soundId: number;
  /** With its ending, as it is handed out. */
  name: string;
  changes: Change[];
  encodingId: number | null;
  error: ErrorFacts | null;
}

type StoredOneOff = Omit<OneOffRow, 'wish' | 'handover'> & {
  wish: string;
  handover: string | null;
};
type StoredFile = Omit<OneOffFileRow, 'changes' | 'error'> & {
  changes: string;
  error: string | null;
};

/** Statements on conversions without a destination. */
export function oneOffStatements(db: Db) {
  const insert = db.prepare<[number, string, string | null, string]>(
    'INSERT INTO oneOffs (projectId, wish, handover, createdAt) VALUES (?, ?, ?, ?)',
  );
  const insertFile = db.prepare<[Omit<StoredFile, 'id'>]>(
    `INSERT INTO oneOffFiles (oneOffId, soundId, name, changes, encodingId, error)
     VALUES (@oneOffId, @soundId, @name, @changes, @encodingId, @error)`,
  );
  const latest = db.prepare<[number], StoredOneOff>(
    'SELECT * FROM oneOffs WHERE projectId = ? AND handover IS NULL ORDER BY id DESC LIMIT 1',
  );
  const latestHandover = db.prepare<[number], StoredOneOff>(
    `SELECT * FROM oneOffs WHERE handover IS NOT NULL AND id IN
       (SELECT oneOffId FROM oneOffFiles WHERE soundId = ?) ORDER BY id DESC LIMIT 1`,
  );
  const byId = db.prepare<[number], StoredOneOff>('SELECT * FROM oneOffs WHERE id = ?');
  const files = db.prepare<[number], StoredFile>(
    'SELECT * FROM oneOffFiles WHERE oneOffId = ? ORDER BY id',
  );
  const file = db.prepare<[number], StoredFile>('SELECT * FROM oneOffFiles WHERE id = ?');
  const dropOld = db.prepare<[{ projectId: number; kept: number }]>(
    `DELETE FROM oneOffs WHERE projectId = @projectId AND id NOT IN (
       SELECT id FROM oneOffs WHERE projectId = @projectId ORDER BY id DESC LIMIT @kept)`,
  );
  const giveUpFile = db.prepare<[string, number]>(
    'UPDATE oneOffFiles SET encodingId = NULL, error = ? WHERE id = ?',
  );
  const revive = (row: StoredOneOff | undefined): OneOffRow | undefined =>
    row && {
      ...row,
      wish: JSON.parse(row.wish) as OneOffWish,
      handover: row.handover === null ? null : (JSON.parse(row.handover) as Handover),
    };
  const reviveFile = (row: StoredFile): OneOffFileRow => ({
    ...row,
    changes: JSON.parse(row.changes) as Change[],
    error: row.error === null ? null : (JSON.parse(row.error) as ErrorFacts),
  });
  return {
    add(projectId: number, wish: OneOffWish, handover: Handover | null = null): number {
      const set = handover && JSON.stringify(handover);
      const now = new Date().toISOString();
      return Number(insert.run(projectId, JSON.stringify(wish), set, now).lastInsertRowid);
    },
    addFile: ({ changes, error, ...row }: Omit<OneOffFileRow, 'id'>) =>
      void insertFile.run({
        ...row,
        changes: JSON.stringify(changes),
        error: error && JSON.stringify(error),
      }),
    latest: (projectId: number) => revive(latest.get(projectId)),
    latestHandover: (soundId: number) => revive(latestHandover.get(soundId)),
    byId: (id: number) => revive(byId.get(id)),
    files: (id: number) => files.all(id).map(reviveFile),
    file(id: number) {
      const row = file.get(id);
      return row && reviveFile(row);
    },
    /** It does not wait for its file any more. */
    giveUpFile: (id: number, error: ErrorFacts) => void giveUpFile.run(JSON.stringify(error), id),
    /** Forgets all but the newest ones of a project. */
    dropOld: (projectId: number, kept: number) => void dropOld.run({ projectId, kept }),
  };
}
