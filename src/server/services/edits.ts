import { BijouError } from '@/core/errors';
import type { PackSettings } from '@/core/pack/settings';
import { soundName } from '@/core/pack/names';
import type { Changed, History, HistoryEntry, SoundEdit } from '@/wire';
import type { Context } from '../context';
import type { ChangedSound } from '../db/changes';
import type { SoundValues } from '../db/sounds';
import { refuseCircle } from './circles';
import { plural } from '@/core/words';

/** What is to be other about one sound. */
export interface ValuesOfSound {
  soundId: number;
  values: Partial<SoundValues>;
}

/** Changing sounds, one or many at once, so that every change can be undone and done again. */
export function editService({ db, changed }: Context) {
  /**
   * Makes one change of many sounds, and writes it down under its verb ("Rename 3 sounds"). Sounds that
   * have those values already are left alone. `revision` is the one that the change was made on.
   * @throws changed-meanwhile
   */
  function change(
    projectId: number,
    verb: string | ((what: string) => string),
    edits: readonly ValuesOfSound[],
    revision?: number,
  ): Changed {
    return db.transaction(() => {
      checkRevision(edits, revision);
      const list = edits.flatMap(({ soundId, values }): ChangedSound[] => {
        const names = Object.keys(values) as (keyof SoundValues)[];
        const before = db.sounds.values(soundId, names);
        if (JSON.stringify(before) === JSON.stringify(values)) return [];
        db.sounds.setValues(soundId, values);
        return [{ soundId, before, after: values }];
      });
      const { revision: now } = db.sounds;
      if (list.length === 0) return { changed: 0, changeId: null, revision: now() };
      const what = whatOf(list);
      const title = typeof verb === 'string' ? `${verb} ${what}` : verb(what);
      const changeId = db.changes.add(projectId, title, list);
      changed(projectId);
      return { changed: list.length, changeId, revision: now() };
    });
  }

  /** Decides about the pack of one destination; what is undefined is as usual again. */
  function settle(
    projectId: number,
    briefId: string,
    title: string,
    change: Partial<PackSettings>,
  ): Changed {
    return db.transaction(() => {
      const before = db.packSettings.of(projectId, briefId);
      const after: PackSettings = { ...before, ...change };
      const revision = db.sounds.revision();
      if (JSON.stringify(before) === JSON.stringify(after)) {
        return { changed: 0, changeId: null, revision };
      }
      db.packSettings.set(projectId, briefId, after);
      const changeId = db.changes.add(projectId, title, [], [{ briefId, before, after }]);
      changed(projectId);
      return { changed: 1, changeId, revision };
    });
  }

  /** Refuses what was made on a sound that somebody has changed since. */
  function checkRevision(edits: readonly ValuesOfSound[], revision = Infinity): void {
    const stale = edits.find(({ soundId }) => db.sounds.editedAt(soundId) > revision);
    if (stale)
      throw changedMeanwhile(`“${db.sounds.byId(stale.soundId)?.name}” was changed`, revision);
  }

  function whatOf(list: readonly ChangedSound[]): string {
    const [first, ...more] = list;
    if (more.length > 0) return plural(list.length, 'sound');
    return `“${first?.before.name ?? db.sounds.byId(first!.soundId)?.name}”`;
  }

  /** Applies what came from a screen or a script. @throws not-found, bad-setting, changed-meanwhile */
  function edit(projectId: number, edits: readonly SoundEdit[], revision?: number): Changed {
    const list = edits.map(({ soundId, removed, name, group, ...rest }): ValuesOfSound => {
      if (db.sounds.byId(soundId)?.projectId !== projectId) throw missing();
      return {
        soundId,
        values: {
          ...rest,
          ...(name !== undefined && { name: soundName(name) }),
          ...(group !== undefined && { group: groupName(group) }),
          ...(removed !== undefined && { removedAt: removed ? new Date().toISOString() : null }),
        },
      };
    });
    return change(projectId, verbFor(edits), list, revision);
  }

  /**
   * Undoes the last change that is not undone, or the one that is named. Answers its title; null for
   * nothing. @throws changed-meanwhile when the named one is undone already, or has others on top of it.
   */
  function undo(projectId: number, changeId?: number): string | null {
    return step(projectId, changeId ?? db.changes.lastDone(projectId)?.id, true);
  }

  /** Does again what was undone last, or what is named. */
  function redo(projectId: number, changeId?: number): string | null {
    return step(projectId, changeId ?? db.changes.firstUndone(projectId)?.id, false);
  }

  function step(
    projectId: number,
    changeId: number | undefined,
    back: boolean,
    soundId: number | null = null,
  ): string | null {
    if (changeId === undefined) return null;
    return db.transaction(() => {
      const found = db.changes.byId(projectId, changeId);
      const rows = found ? db.changes.sounds(changeId, !back, soundId) : [];
      const settings = found && soundId === null ? db.changes.settings(changeId, !back) : [];
      const isNext =
        rows.every((row) => db.changes.nextOf(row.soundId, back) === changeId) &&
        settings.every(
          ({ briefId }) => db.changes.nextOfSettings(projectId, briefId, back) === changeId,
        );
      if (!found || rows.length + settings.length === 0 || !isNext) {
        const what = found ? `“${found.title}” cannot be` : 'That change cannot be';
        throw notNext(`${what} ${back ? 'undone' : 'done again'}`);
      }
      for (const row of rows) {
        db.sounds.setValues(row.soundId, back ? row.before : row.after);
        db.changes.setUndone(changeId, row.soundId, back);
      }
      for (const { briefId, before, after } of settings) {
        db.packSettings.set(projectId, briefId, back ? before : after);
        db.changes.setSettingsUndone(changeId, briefId, back);
      }
      for (const row of rows) refuseCircle(db, row.soundId);
      changed(projectId);
      return found.title;
    });
  }

  /** Undoes the last change of one sound, or the named one, whatever was done to others since. */
  const undoOf = (soundId: number, changeId?: number) => stepOf(soundId, true, changeId);
  const redoOf = (soundId: number, changeId?: number) => stepOf(soundId, false, changeId);

  function stepOf(soundId: number, back: boolean, changeId?: number): string | null {
    const meant = changeId ?? db.changes.nextOf(soundId, back) ?? undefined;
    return step(projectOf(soundId), meant, back, soundId);
  }

  /** Goes to where a change of a sound was the last that is done; 0 for before all of them. */
  function goTo(soundId: number, changeId: number): void {
    const list = db.changes.ofSound(soundId);
    if (changeId !== 0 && !list.some(({ id }) => id === changeId)) throw notInHistory();
    db.transaction(() => {
      for (const entry of list.toReversed()) {
        if (entry.id > changeId && !entry.undone) undoOf(soundId);
      }
      for (const entry of list) if (entry.id <= changeId && entry.undone) redoOf(soundId);
    });
  }

  function projectOf(soundId: number): number {
    const sound = db.sounds.byId(soundId);
    if (!sound) throw missing();
    return sound.projectId;
  }

  return {
    change,
    settle,
    edit,
    undo,
    redo,
    undoOf,
    redoOf,
    goTo,
    /** Everything that was done to a sound, oldest first. */
    historyOf: (soundId: number): HistoryEntry[] => db.changes.ofSound(soundId),
    history: (projectId: number): History => db.changes.titles(projectId),
    /** What undoing and doing again would concern of one sound. */
    nextOf: (soundId: number): History => {
      const list = db.changes.ofSound(soundId);
      return {
        undo: list.findLast(({ undone }) => !undone) ?? null,
        redo: list.find(({ undone }) => undone) ?? null,
      };
    },
  };
}

export type EditService = ReturnType<typeof editService>;

/** What the first of several alike edits does, as a verb. */
const verbs: readonly [is: (edit: SoundEdit) => boolean, verb: string][] = [
  [({ removed }) => removed === true, 'Take out'],
  [({ removed }) => removed === false, 'Bring back'],
  [({ name }) => name !== undefined, 'Rename'],
  [({ group }) => group !== undefined, 'Group'],
  [({ labels }) => labels !== undefined, 'Label'],
  [({ language }) => language !== undefined, 'Set the language of'],
  [({ note }) => note !== undefined, 'Note on'],
  [({ tempo }) => tempo !== undefined, 'Set the tempo of'],
];

function verbFor([first]: readonly SoundEdit[]): string {
  return verbs.find(([is]) => first && is(first))?.[1] ?? 'Change';
}

/** Groups as they were typed: each part printable and of bearable length. */
function groupName(typed: string): string {
  return typed
    .split('/')
    .map((part) => part.trim())
    .filter(Boolean)
    .map(soundName)
    .join('/');
}

/** A change that was made on what is not so any more. `since` is the revision that was known. */
function changedMeanwhile(what: string, since = 0): BijouError {
  const error = new BijouError(
    'changed-meanwhile',
    `${what} meanwhile, in another window or by somebody else.`,
    'Look at it as it is now, then do it again if you still want it.',
  );
  return Object.assign(error, { since });
}

/** A step of the history is meant that is not the next one any more. */
function notNext(what: string): BijouError {
  return new BijouError(
    'changed-meanwhile',
    `${what}: newer changes stand on it, or it has been already.`,
    'Go back step by step with Ctrl+Z.',
  );
}

function notInHistory(): BijouError {
  return new BijouError(
    'not-found',
    'That change is not in the history of this sound.',
    'Reload the page.',
  );
}

function missing(): BijouError {
  return new BijouError('not-found', 'That sound is not there any more.', 'Go back to Collect.');
}
