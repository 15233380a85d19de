import { BijouError } from '@/core/errors';
import { soundName } from '@/core/pack/names';
import type { History, HistoryEntry, SoundEdit } from '@/wire';
import type { Context } from '../context';
import type { ChangedSound } from '../db/changes';
import type { SoundValues } from '../db/sounds';

/** What is to be other about one sound. */
export interface ValuesOfSound {
  soundId: number;
  values: Partial<SoundValues>;
}

/** Changing sounds, one or many at once, so that every change can be undone and done again. */
export function editService({ db, changed }: Context) {
  /**
   * Makes one change of many sounds, and writes it down as `title` ("Rename 3 sounds"). Sounds that
   * have those values already are left alone. Answers how many were changed.
   */
  function change(
    projectId: number,
    verb: string | { title: string },
    edits: readonly ValuesOfSound[],
  ): number {
    const count = db.transaction(() => {
      const list = edits.flatMap(({ soundId, values }): ChangedSound[] => {
        const names = Object.keys(values) as (keyof SoundValues)[];
        const before = db.sounds.values(soundId, names);
        if (JSON.stringify(before) === JSON.stringify(values)) return [];
        db.sounds.setValues(soundId, values);
        return [{ soundId, before, after: values }];
      });
      if (list.length > 0) {
        const title = typeof verb === 'string' ? `${verb} ${whatOf(list)}` : verb.title;
        db.changes.add(projectId, title, list);
      }
      return list.length;
    });
    if (count > 0) changed(projectId);
    return count;
  }

  function whatOf(list: readonly ChangedSound[]): string {
    const [first, ...more] = list;
    if (more.length > 0) return `${list.length} sounds`;
    return `“${first?.before.name ?? db.sounds.byId(first!.soundId)?.name}”`;
  }

  /** Applies what came from a screen or a script. @throws not-found, bad-setting */
  function edit(projectId: number, edits: readonly SoundEdit[]): number {
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
    return change(projectId, verbFor(edits), list);
  }

  /** Undoes the last change that is not undone. Answers its title; null for nothing. */
  function undo(projectId: number): string | null {
    return step(projectId, db.changes.lastDone(projectId), true);
  }

  /** Does again what was undone last. */
  function redo(projectId: number): string | null {
    return step(projectId, db.changes.firstUndone(projectId), false);
  }

  function step(
    projectId: number,
    found: { id: number; title: string } | undefined,
    back: boolean,
    soundId: number | null = null,
  ): string | null {
    if (!found) return null;
    db.transaction(() => {
      for (const row of db.changes.sounds(found.id, !back, soundId)) {
        db.sounds.setValues(row.soundId, back ? row.before : row.after);
        db.changes.setUndone(found.id, row.soundId, back);
      }
    });
    changed(projectId);
    return found.title;
  }

  /** Undoes the last change of one sound, whatever was done to others since. */
  function undoOf(soundId: number): string | null {
    const last = db.changes.ofSound(soundId).findLast(({ undone }) => !undone);
    return step(projectOf(soundId), last, true, soundId);
  }

  function redoOf(soundId: number): string | null {
    const next = db.changes.ofSound(soundId).find(({ undone }) => undone);
    return step(projectOf(soundId), next, false, soundId);
  }

  /** Goes to where a change of a sound was the last that is done; 0 for before all of them. */
  function goTo(soundId: number, changeId: number): void {
    const list = db.changes.ofSound(soundId);
    if (changeId !== 0 && !list.some(({ id }) => id === changeId)) throw notInHistory();
    for (const entry of list.toReversed()) {
      if (entry.id > changeId && !entry.undone) undoOf(soundId);
    }
    for (const entry of list) if (entry.id <= changeId && entry.undone) redoOf(soundId);
  }

  function projectOf(soundId: number): number {
    const sound = db.sounds.byId(soundId);
    if (!sound) throw missing();
    return sound.projectId;
  }

  return {
    change,
    edit,
    undo,
    redo,
    undoOf,
    redoOf,
    goTo,
    /** Everything that was done to a sound, oldest first. */
    historyOf: (soundId: number): HistoryEntry[] => db.changes.ofSound(soundId),
    history: (projectId: number): History => db.changes.titles(projectId),
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
