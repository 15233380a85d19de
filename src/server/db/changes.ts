import type { History } from '@/wire';
import type { Db } from './open';
import type { SoundValues } from './sounds';

/** What one change did to one sound. */
export interface ChangedSound {
  soundId: number;
  before: Partial<SoundValues>;
  after: Partial<SoundValues>;
}

/** The history of a project: what people did, in order, and how much of it is undone. */
export function changeStatements(db: Db) {
  const insert = db.prepare<[number, string, string]>(
    'INSERT INTO changes (projectId, title, madeAt) VALUES (?, ?, ?)',
  );
  const insertSound = db.prepare<[number, number, string, string]>(
    'INSERT INTO changedSounds (changeId, soundId, before, after) VALUES (?, ?, ?, ?)',
  );
  const dropUndone = db.prepare<[number]>('DELETE FROM changes WHERE projectId = ? AND undone = 1');
  const lastDone = db.prepare<[number], { id: number; title: string }>(
    'SELECT id, title FROM changes WHERE projectId = ? AND undone = 0 ORDER BY id DESC LIMIT 1',
  );
  const firstUndone = db.prepare<[number], { id: number; title: string }>(
    'SELECT id, title FROM changes WHERE projectId = ? AND undone = 1 ORDER BY id LIMIT 1',
  );
  const sounds = db.prepare<[number], { soundId: number; before: string; after: string }>(
    'SELECT soundId, before, after FROM changedSounds WHERE changeId = ?',
  );
  const mark = db.prepare<[number, number]>('UPDATE changes SET undone = ? WHERE id = ?');
  const clear = db.prepare<[number]>('DELETE FROM changes WHERE projectId = ?');
  return {
    /** Writes a change down. What was undone before it cannot be redone any more. */
    add(projectId: number, title: string, changed: readonly ChangedSound[]): void {
      dropUndone.run(projectId);
      const id = Number(insert.run(projectId, title, new Date().toISOString()).lastInsertRowid);
      for (const { soundId, before, after } of changed) {
        insertSound.run(id, soundId, JSON.stringify(before), JSON.stringify(after));
      }
    },
    lastDone: (projectId: number) => lastDone.get(projectId),
    firstUndone: (projectId: number) => firstUndone.get(projectId),
    sounds: (changeId: number): ChangedSound[] =>
      sounds.all(changeId).map(({ soundId, before, after }) => ({
        soundId,
        before: JSON.parse(before) as Partial<SoundValues>,
        after: JSON.parse(after) as Partial<SoundValues>,
      })),
    setUndone: (changeId: number, undone: boolean) => void mark.run(undone ? 1 : 0, changeId),
    titles: (projectId: number): History => ({
      undo: lastDone.get(projectId)?.title ?? null,
      redo: firstUndone.get(projectId)?.title ?? null,
    }),
    clear: (projectId: number) => void clear.run(projectId),
  };
}
