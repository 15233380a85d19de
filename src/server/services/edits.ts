import { BijouError } from '@/core/errors';
import { soundName } from '@/core/pack/names';
import type { History, SoundEdit } from '@/wire';
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
  function change(projectId: number, verb: string, edits: readonly ValuesOfSound[]): number {
    const count = db.transaction(() => {
      const list = edits.flatMap(({ soundId, values }): ChangedSound[] => {
        const names = Object.keys(values) as (keyof SoundValues)[];
        const before = db.sounds.values(soundId, names);
        if (JSON.stringify(before) === JSON.stringify(values)) return [];
        db.sounds.setValues(soundId, values);
        return [{ soundId, before, after: values }];
      });
      if (list.length > 0) db.changes.add(projectId, `${verb} ${whatOf(list)}`, list);
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
  ): string | null {
    if (!found) return null;
    db.transaction(() => {
      for (const { soundId, before, after } of db.changes.sounds(found.id)) {
        db.sounds.setValues(soundId, back ? before : after);
      }
      db.changes.setUndone(found.id, back);
    });
    changed(projectId);
    return found.title;
  }

  return {
    change,
    edit,
    undo,
    redo,
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

function missing(): BijouError {
  return new BijouError('not-found', 'That sound is not there any more.', 'Go back to Collect.');
}
