import { writerById } from '../formats/write';
import type { Loop, Marks } from '../marks';
import type { Change } from '../oneOff/change';
import { fit, type StoredAs, type Wish } from '../oneOff/fit';
import { marksAfter, shapeAfter } from '../recipe/recipe';
import type { Recipe, Shape } from '../recipe/types';
import { listenedLoop, listeningSteps, type ListeningWish } from './listening';
import { pieceRecipe, piecesOf, pieceWords, type LoopPiece } from './parts';

/** What a file that is made of a loop is for. */
export type LoopRole = 'whole' | LoopPiece | 'listening';

/** A sound whose recipe ends in a marked loop. */
export interface LoopedSound {
  /** Of its source. */
  shape: Shape;
  stored: StoredAs;
  /** Of its source. */
  marks: Marks;
  recipe: Recipe;
}

/** Which files are wanted, and in which form. */
export interface LoopFilesWish {
  pieces: Wish | null;
  listening: { times: ListeningWish; form: Wish } | null;
  /** The sound with its loop points, in one file. */
  whole: Wish | null;
}

/** One file that is made of a loop. */
export interface LoopFile {
  role: LoopRole;
  writer: string;
  recipe: Recipe;
  settings: object;
  changes: Change[];
  shape: Shape;
  /** Where its seam is heard in it; null where it is not. */
  loop: Loop | null;
  /** What its name has behind that of the sound. */
  mark: string;
}

/**
 * The files of a loop, in the order in which they are heard.
 * @throws not-allowed where no loop is marked; not-legal; what the first impossible step says
 */
export function loopFiles(
  sound: LoopedSound,
  { whole, pieces, listening }: LoopFilesWish,
): LoopFile[] {
  const { shape: before, marks } = sound;
  const files: LoopFile[] = [];
  const add = (role: LoopRole, form: Fitted, recipe: Recipe, mark: string, loop: Loop | null) =>
    files.push({ ...form, role, recipe, mark, loop, shape: shapeAfter(recipe, before) });
  const loopBehind = (recipe: Recipe) => marksAfter(recipe, before, marks).loop;
  if (whole) {
    const form = fitted(sound, whole);
    add('whole', form, form.recipe, '', loopBehind(form.recipe));
  }
  if (pieces) {
    const form = fitted(sound, pieces);
    for (const piece of piecesOf(marksAfter(form.recipe, before, marks))) {
      const recipe = pieceRecipe(form.recipe, before, marks, piece);
      const loop = piece === 'repeat' ? loopBehind(recipe) : null;
      add(piece, form, recipe, ` ${pieceWords[piece]}`, loop);
    }
  }
  if (listening) {
    const form = fitted(sound, listening.form);
    const after = shapeAfter(form.recipe, before);
    const marked = marksAfter(form.recipe, before, marks);
    const steps = [...form.recipe.steps, ...listeningSteps(marked, after, listening.times)];
    const loop = listenedLoop(marked, after, listening.times);
    add('listening', form, { version: 1, steps }, ' listening', loop);
  }
  return files;
}

type Fitted = Pick<LoopFile, 'writer' | 'recipe' | 'settings' | 'changes'>;

/** The whole sound in a format, as far as that holds it. */
function fitted({ shape, stored, recipe }: LoopedSound, form: Wish): Fitted {
  const { steps, settings, changes } = fit(shapeAfter(recipe, shape), stored, form);
  const { id: writer } = writerById(form.writer);
  return { writer, settings, changes, recipe: { version: 1, steps: [...recipe.steps, ...steps] } };
}

/** What is handed over is a WAV of 16 bits, or of 24 where there are more. */
export function handoverForm({ bitDepth, codec }: StoredAs): Wish {
  const bits = codec !== 'float' && bitDepth !== null && bitDepth <= 16 ? 16 : 24;
  return { writer: 'wav', settings: { bits } };
}
