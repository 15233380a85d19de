import { BijouError } from '../errors';
import type { Marks, SoundMarks, Stretch } from '../marks';
import { marksAfter } from '../recipe/recipe';
import type { LoopSeam } from '../recipe/steps/loop';
import type { Recipe, Shape, Step } from '../recipe/types';

/** What an engine plays of a loop, one file each, in the order in which they are heard. */
export const loopPieces = {
  intro: 'intro',
  first: 'first pass',
  repeat: 'repeat pass',
} as const;

export type LoopPiece = keyof typeof loopPieces;

/** How the name of a piece's file differs from that of the whole, such as "waltz first". */
export const pieceWords: Record<LoopPiece, string> = {
  intro: 'intro',
  first: 'first',
  repeat: 'repeat',
};

/** Where the pieces of a loop lie in the sound; they follow one another without a gap. */
export interface LoopParts {
  intro: Stretch | null;
  first: Stretch;
  /** The same as the first pass, where nothing is put under its start. */
  repeat: Stretch;
  /** What still rings behind the last pass. */
  tail: Stretch | null;
}

/** The pieces of a marked loop. @throws not-allowed where none is marked, or it runs back and forth */
export function partsOf({ loop, intro, first, tail }: SoundMarks): LoopParts {
  if (!loop) {
    throw new BijouError(
      'not-allowed',
      'No loop is marked in it.',
      'Give it a loop, or switch on the step that does.',
    );
  }
  if (loop.isBackAndForth) {
    throw new BijouError(
      'not-allowed',
      'Its loop runs back and forth.',
      'Unroll it first: then it runs forward in every player.',
    );
  }
  const repeat = { startFrame: loop.startFrame, endFrame: loop.endFrame };
  return { intro, first: first ?? repeat, repeat, tail };
}

/** Those pieces that a loop has, in the order in which they are heard. @throws as `partsOf` */
export function piecesOf(marks: SoundMarks): LoopPiece[] {
  return partsOf(marks).intro ? ['intro', 'first', 'repeat'] : ['first', 'repeat'];
}

/**
 * A recipe that ends with one piece of the loop that it marks. `before` and `marks` are those of the source.
 * @throws not-allowed where there is no such piece; as `shapeAfter`
 */
export function pieceRecipe(recipe: Recipe, before: Shape, marks: Marks, piece: LoopPiece): Recipe {
  const dry = isDry(recipe, piece) ? withoutSeam(recipe) : recipe;
  const found = partsOf(marksAfter(dry, before, marks))[piece];
  if (!found) {
    throw new BijouError(
      'not-allowed',
      `Its loop has no ${loopPieces[piece]}.`,
      'Give it one in its loop step.',
    );
  }
  const { startFrame, endFrame } = found;
  const params = { startFrame, endFrame, ...(piece !== 'repeat' && { withoutLoop: true }) };
  return { ...dry, steps: [...dry.steps, { kind: 'keep', on: true, params }] };
}

/** Steps that leave a piece the same, whatever lies behind it. */
const pointwise = new Set(['channels', 'polarity', 'keep']);

/**
 * Whether a piece is the same with and without what was done to the seam. Without it, samples that came from a
 * file of some depth are known to be those.
 */
function isDry({ steps }: Recipe, piece: LoopPiece): boolean {
  const active = steps.filter(({ on }) => on);
  const at = active.findLastIndex(isLoop);
  if (at < 0 || active.slice(at + 1).some(({ kind }) => !pointwise.has(kind))) return false;
  const seam = active[at]!.params['seam'] as LoopSeam | undefined;
  return piece === 'intro' || (piece === 'first' && seam === 'tail');
}

function withoutSeam(recipe: Recipe): Recipe {
  const at = recipe.steps.findLastIndex((step) => step.on && isLoop(step));
  const cut = (step: Step) => ({ ...step, params: { ...step.params, seam: 'cut' } });
  return { ...recipe, steps: recipe.steps.map((step, i) => (i === at ? cut(step) : step)) };
}

function isLoop({ kind }: Step): boolean {
  return kind === 'loop';
}
