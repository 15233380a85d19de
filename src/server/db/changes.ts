import type { PackSettings } from '@/core/pack/settings';
import type { History, HistoryEntry, NamedChange } from '@/wire';
import type { Db } from './open';
import type { SoundValues } from './sounds';

/** What one change did to one sound. */
export interface ChangedSound {
  soundId: number;
  before: Partial<SoundValues>;
  after: Partial<SoundValues>;
}

/** What one change did to the pack of one destination. */
export interface ChangedSettings {
  briefId: string;
  before: PackSettings;
  after: PackSettings;
}

/**
 * The history: what people did to sounds, in order. Each sound of a change is undone and done again for
 * itself; what is undone of a sound is always what was done to it last.
 */
export function changeStatements(db: Db) {
  const insert = db.prepare<[number, string, string]>(
    'INSERT INTO changes (projectId, title, madeAt) VALUES (?, ?, ?)',
  );
  const insertSound = db.prepare<[number, number, string, string]>(
    'INSERT INTO changedSounds (changeId, soundId, before, after) VALUES (?, ?, ?, ?)',
  );
  const dropUndone = db.prepare<[number]>(
    'DELETE FROM changedSounds WHERE soundId = ? AND undone = 1',
  );
  const insertSettings = db.prepare<[number, string, string, string]>(
    'INSERT INTO changedPackSettings (changeId, briefId, before, after) VALUES (?, ?, ?, ?)',
  );
  const dropUndoneSettings = db.prepare<[string, number]>(
    `DELETE FROM changedPackSettings WHERE briefId = ? AND undone = 1
       AND changeId IN (SELECT id FROM changes WHERE projectId = ?)`,
  );
  const dropEmpty = db.prepare<[number]>(
    `DELETE FROM changes WHERE projectId = ? AND id NOT IN (SELECT changeId FROM changedSounds)
       AND id NOT IN (SELECT changeId FROM changedPackSettings)`,
  );
  const has = (undone: 0 | 1) =>
    `(EXISTS (SELECT 1 FROM changedSounds WHERE changeId = changes.id AND undone = ${undone})
      OR EXISTS (SELECT 1 FROM changedPackSettings WHERE changeId = changes.id AND undone = ${undone}))`;
  const lastDone = db.prepare<[number], NamedChange>(
    `SELECT id, title FROM changes WHERE projectId = ? AND ${has(0)} ORDER BY id DESC LIMIT 1`,
  );
  // Something new done elsewhere comes in between: then only the sound itself can do it again.
  const firstUndone = db.prepare<[number, number], NamedChange>(
    `SELECT id, title FROM changes WHERE projectId = ? AND id >= ? AND ${has(1)} ORDER BY id LIMIT 1`,
  );
  const byId = db.prepare<[number, number], NamedChange>(
    'SELECT id, title FROM changes WHERE projectId = ? AND id = ?',
  );
  // What would be undone, or done again, of a sound.
  const turnOf = (undone: 0 | 1, which: 'max' | 'min') =>
    db
      .prepare<[number], number | null>(
        `SELECT ${which}(changeId) FROM changedSounds WHERE soundId = ? AND undone = ${undone}`,
      )
      .pluck();
  const lastDoneTo = turnOf(0, 'max');
  const firstUndoneTo = turnOf(1, 'min');
  const ofSound = db.prepare<[number], Omit<HistoryEntry, 'undone'> & { undone: 0 | 1 }>(
    `SELECT id, title, madeAt, changedSounds.undone FROM changes
     JOIN changedSounds ON changeId = changes.id WHERE soundId = ? ORDER BY id`,
  );
  const sounds = db.prepare<
    [{ changeId: number; undone: 0 | 1; soundId: number | null }],
    { soundId: number; before: string; after: string }
  >(
    `SELECT soundId, before, after FROM changedSounds
     WHERE changeId = @changeId AND undone = @undone AND (@soundId IS NULL OR soundId = @soundId)`,
  );
  const settings = db.prepare<[number, 0 | 1], { briefId: string; before: string; after: string }>(
    'SELECT briefId, before, after FROM changedPackSettings WHERE changeId = ? AND undone = ?',
  );
  const markSettings = db.prepare<[number, number, string]>(
    'UPDATE changedPackSettings SET undone = ? WHERE changeId = ? AND briefId = ?',
  );
  // Of the settings of one destination, as of a sound.
  const settingsTurn = (undone: 0 | 1, which: 'max' | 'min') =>
    db
      .prepare<[string, number], number | null>(
        `SELECT ${which}(changeId) FROM changedPackSettings JOIN changes ON changes.id = changeId
         WHERE briefId = ? AND projectId = ? AND undone = ${undone}`,
      )
      .pluck();
  const lastDoneToSettings = settingsTurn(0, 'max');
  const firstUndoneToSettings = settingsTurn(1, 'min');
  const mark = db.prepare<[number, number, number]>(
    'UPDATE changedSounds SET undone = ? WHERE changeId = ? AND soundId = ?',
  );
  const clear = db.prepare<[number]>('DELETE FROM changes WHERE projectId = ?');
  const lastDoneOf = (projectId: number) => lastDone.get(projectId);
  const firstUndoneOf = (projectId: number) =>
    firstUndone.get(projectId, lastDoneOf(projectId)?.id ?? 0);
  return {
    /** Writes a change down and answers its id. What was undone of its sounds before cannot be done again any more. */
    add(
      projectId: number,
      title: string,
      changed: readonly ChangedSound[],
      settled: readonly ChangedSettings[] = [],
    ): number {
      for (const { soundId } of changed) dropUndone.run(soundId);
      for (const { briefId } of settled) dropUndoneSettings.run(briefId, projectId);
      dropEmpty.run(projectId);
      const id = Number(insert.run(projectId, title, new Date().toISOString()).lastInsertRowid);
      for (const { soundId, before, after } of changed) {
        insertSound.run(id, soundId, JSON.stringify(before), JSON.stringify(after));
      }
      for (const { briefId, before, after } of settled) {
        insertSettings.run(id, briefId, JSON.stringify(before), JSON.stringify(after));
      }
      return id;
    },
    lastDone: lastDoneOf,
    firstUndone: firstUndoneOf,
    byId: (projectId: number, id: number) => byId.get(projectId, id),
    /** The change that undoing (`back`) or doing again would concern, of one sound; null for none. */
    nextOf: (soundId: number, back: boolean) =>
      (back ? lastDoneTo : firstUndoneTo).get(soundId) ?? null,
    /** What a change did to its sounds, or to one: of those for which it is undone, or is not. */
    sounds: (changeId: number, undone: boolean, soundId: number | null = null): ChangedSound[] =>
      sounds.all({ changeId, undone: undone ? 1 : 0, soundId }).map((row) => ({
        soundId: row.soundId,
        before: JSON.parse(row.before) as Partial<SoundValues>,
        after: JSON.parse(row.after) as Partial<SoundValues>,
      })),
    /** What a change did to the packs of destinations: those for which it is undone, or is not. */
    settings: (changeId: number, undone: boolean): ChangedSettings[] =>
      settings.all(changeId, undone ? 1 : 0).map(({ briefId, before, after }) => ({
        briefId,
        before: JSON.parse(before) as PackSettings,
        after: JSON.parse(after) as PackSettings,
      })),
    /** As `nextOf`, of the pack of one destination. */
    nextOfSettings: (projectId: number, briefId: string, back: boolean) =>
      (back ? lastDoneToSettings : firstUndoneToSettings).get(briefId, projectId) ?? null,
    setSettingsUndone: (changeId: number, briefId: string, undone: boolean) =>
      void markSettings.run(undone ? 1 : 0, changeId, briefId),
    setUndone: (changeId: number, soundId: number, undone: boolean) =>
      void mark.run(undone ? 1 : 0, changeId, soundId),
    titles: (projectId: number): History => ({
      undo: lastDoneOf(projectId) ?? null,
      redo: firstUndoneOf(projectId) ?? null,
    }),
    /** Everything that was done to a sound, oldest first. */
    ofSound: (soundId: number): HistoryEntry[] =>
      ofSound.all(soundId).map((row) => ({ ...row, undone: row.undone === 1 })),
    clear: (projectId: number) => void clear.run(projectId),
  };
}
