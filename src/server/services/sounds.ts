import { BijouError, fromErrorFacts, type ErrorFacts } from '@/core/errors';
import type { RawDescription } from '@/core/formats/raw/reader';
import { freeSoundName, soundName, soundNameFrom } from '@/core/pack/names';
import { differenceTitle } from '@/core/recipe/difference';
import { kindOf, parseRecipe, shapeAfter, walkRecipe } from '@/core/recipe/recipe';
import { emptyRecipe, shapeOf, type Recipe, type Shape } from '@/core/recipe/types';
import type { Sound } from '@/wire';
import type { Context } from '../context';
import type { SoundValues } from '../db/sounds';
import type { EditService } from './edits';
import { soundById } from './lookUp';

/** How a file comes to its place in the project. */
export interface Placing {
  /** Describes a file without a header. */
  raw?: RawDescription | null;
  /** Where it stood outside. */
  folder?: string;
  group?: string;
  /** The sound whose changed file this is, if it is one; asked when its bytes are known to be new. */
  replaces?: () => number | null;
  /** Writes down elsewhere what became of the file, together with the sound. */
  record?: (soundId: number, already: boolean) => void;
}

/** What is to be other about a sound; the recipe as somebody sent it. */
interface SoundChange {
  name?: string | undefined;
  recipe?: unknown;
  removed?: boolean | undefined;
}

/** Taking sounds in, and shaping them. */
export function soundService(context: Context, edits: EditService) {
  const { db, store, changed } = context;

  const byId = (id: number) => soundById(db, id);

  /**
   * Takes in one file. It is a sound of the project at once, in the state `reading`, unless the same
   * bytes are there already: then the sound that has them is answered.
   */
  async function add(
    projectId: number,
    fileName: string,
    stream: AsyncIterable<Uint8Array>,
    expectedBytes: number | null,
    { raw = null, folder = '', group = '', replaces = () => null, record }: Placing = {},
  ): Promise<{ sound: Sound; already: boolean }> {
    const added = await store.add(stream, expectedBytes, keep, raw);
    if (!added.already) context.pump();
    return added;

    /** Writes down who has the bytes that have just been stored. */
    function keep(sha256: string, bytes: number): { sound: Sound; already: boolean } {
      const same = db.sounds.bySource(projectId, sha256);
      if (same) {
        record?.(same.id, true);
        return { sound: same, already: true };
      }
      const id = db.transaction(() => {
        db.sources.add(sha256, bytes, raw);
        const isRead = db.sources.isRead(sha256);
        const added = db.sounds.add({
          projectId,
          name: freeSoundName(soundNameFrom(fileName), db.sounds.names(projectId, group)),
          fileName: fileName.slice(0, 400),
          sourceSha256: sha256,
          recipe: emptyRecipe,
          state: isRead ? 'ready' : 'reading',
          group,
          folder,
          replaces: replaces(),
        });
        if (!isRead) db.jobs.add(projectId, 'read', added);
        record?.(added, false);
        changed(projectId);
        return added;
      });
      return { sound: byId(id), already: false };
    }
  }

  /**
   * The recipe as it may be set. A step that is new and cannot be done where it stands is refused; one that was
   * there before and cannot be done any more is kept, and marked. @throws bad-setting, bad-span, not-legal
   */
  function settableRecipe(sound: Sound, data: unknown): Recipe {
    const recipe: Recipe = parseRecipe(data);
    const problem = newProblem(recipe, sound.recipe, sourceShape(sound));
    if (problem) throw fromErrorFacts(problem);
    return recipe;
  }

  /**
   * Changes a sound's name or recipe, or takes it out of the project and back in: all of that, or nothing of it.
   * @throws changed-meanwhile where it is other than at `revision`, and as `settableRecipe`
   */
  function change(id: number, { name, recipe, removed }: SoundChange, revision?: number): Sound {
    const sound = byId(id);
    const next = recipe === undefined ? undefined : settableRecipe(sound, recipe);
    const values: Partial<SoundValues> = {
      ...(next && { recipe: next }),
      ...(name !== undefined && { name: soundName(name) }),
      ...(removed !== undefined && { removedAt: removed ? new Date().toISOString() : null }),
    };
    const verbs = [
      ...(next ? [`${differenceTitle(sound.recipe, next)} on`] : []),
      ...(name === undefined ? [] : ['Rename']),
      ...(removed === undefined ? [] : [removed ? 'Take out' : 'Bring back']),
    ];
    const verb = verbs.length === 1 ? verbs[0]! : 'Change';
    edits.change(sound.projectId, verb, [{ soundId: id, values }], revision);
    return byId(id);
  }

  const setRecipe = (id: number, recipe: unknown, revision?: number) =>
    change(id, { recipe }, revision);

  /** Lets a file that was to replace a sound stand beside it, under a name of its own. */
  function letStand({ id, projectId, name, group }: Sound): void {
    db.sounds.setValues(id, { name: freeSoundName(name, db.sounds.names(projectId, group)) });
    db.sounds.keepAsNew(id);
  }

  /** Another sound of the same source. Its coming can be undone. */
  function addLike(sound: Sound, name: string, recipe: Recipe): number {
    const { projectId, fileName, sourceSha256, group, folder, tempo } = sound;
    const id = db.sounds.add({
      projectId,
      name: freeSoundName(name, db.sounds.names(projectId, group)),
      fileName,
      sourceSha256,
      recipe,
      state: 'ready',
      group,
      folder,
      replaces: null,
    });
    db.sounds.setValues(id, { tempo, removedAt: new Date().toISOString() });
    return id;
  }

  function bringOut(projectId: number, title: string, ids: readonly number[]): Sound[] {
    const appear = ids.map((soundId) => ({ soundId, values: { removedAt: null } }));
    edits.change(projectId, () => title, appear);
    return ids.map(byId);
  }

  /** Every channel, behind the recipe, as a sound of its own. The sound itself stays. */
  function split(id: number): Sound[] {
    const sound = byId(id);
    const { channelCount } = shapeAfter(sound.recipe, sourceShape(sound));
    if (channelCount < 2) throw onlyOne(sound.name);
    const names = channelCount === 2 ? ['L', 'R'] : null;
    const ids = db.transaction(() =>
      Array.from({ length: channelCount }, (_, c) => {
        const keep = { kind: 'channels', on: true, params: { mode: 'keep', channel: c + 1 } };
        const recipe = { ...sound.recipe, steps: [...sound.recipe.steps, keep] };
        return addLike(sound, `${sound.name} ${names?.[c] ?? c + 1}`, recipe);
      }),
    );
    return bringOut(sound.projectId, `Split “${sound.name}”`, ids);
  }

  /** The sound once more, to be shaped otherwise. */
  function copy(id: number): Sound {
    const sound = byId(id);
    sourceShape(sound);
    const made = db.transaction(() => addLike(sound, `${sound.name} copy`, sound.recipe));
    return bringOut(sound.projectId, `Copy “${sound.name}”`, [made])[0]!;
  }

  /** Reads a sound again that could not be read for a reason that was not its own. */
  function readAgain(id: number): void {
    const { state, join, projectId } = byId(id);
    if (state !== 'reading' || join || db.jobs.isOpen('read', id)) return;
    db.transaction(() => {
      db.sounds.setState(id, 'reading');
      db.jobs.add(projectId, 'read', id);
      changed(projectId);
    });
    context.pump();
  }

  return {
    byId,
    letStand,
    readAgain,
    ofProject: db.sounds.ofProject,
    add,
    change,
    setRecipe,
    split,
    copy,
    /** Small pictures by sound; null for those that were read before there were any. */
    thumbnails: (projectId: number, ids: readonly number[]) =>
      Object.fromEntries(
        db.sources.thumbnails(projectId, ids).map(({ id, thumbnail }) => [id, thumbnail]),
      ),
    /** The mean spectrum of its source, for pictures. */
    spectrum: (id: number) => db.sources.spectrumOf(byId(id).sourceSha256),
  };
}

export type SoundService = ReturnType<typeof soundService>;

/** Why a step cannot be done that was not there, or not so, before; null when none is. */
export function newProblem(recipe: Recipe, before: Recipe, shape: Shape): ErrorFacts | null {
  const old = new Set(before.steps.map((step) => JSON.stringify(step)));
  const found = walkRecipe(recipe, shape).find(
    ({ step, problem }) => problem && kindOf(step) && !old.has(JSON.stringify(step)),
  );
  return found?.problem ?? null;
}

function onlyOne(name: string): BijouError {
  return new BijouError(
    'not-legal',
    `“${name}” has only one channel: there is nothing to split.`,
    'Take a mixing step out of its recipe first, if it has one.',
  );
}

/** The shape of a sound that has been read. @throws not-allowed while it has not. */
export function sourceShape(sound: Sound): Shape {
  if (!sound.facts) throw notRead(sound.name);
  return shapeOf(sound.facts);
}

export function notRead(name: string): BijouError {
  return new BijouError(
    'not-allowed',
    `"${name}" has not been read yet.`,
    'Wait a moment, then try again.',
  );
}
