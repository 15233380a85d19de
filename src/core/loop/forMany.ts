import { wayBackFrames, type CrossfadeCurve } from '../dsp/loop';
import { BijouError } from '../errors';
import type { Loop, Marks, Stretch } from '../marks';
import { marksAfter, shapeAfter } from '../recipe/recipe';
import { crossfadeRoom, mostCrossfade, type LoopParams, type LoopSeam } from '../recipe/steps/loop';
import type { Recipe, Shape, Step } from '../recipe/types';

/** What is to be done about the loops of many sounds; times, for each has a rate of its own. */
export interface LoopForMany {
  /** The loop that each has, else all of it; all of it; or the same points for all. */
  where: 'own' | 'whole' | Stretch;
  /** Null leaves each seam as it is. */
  seam: LoopSeam | null;
  crossfadeSeconds: number;
  curve: CrossfadeCurve;
  tailSeconds: number;
  tailDb: number;
}

/** A sound as far as has to be known of it. */
export interface LoopingSound {
  /** Of its source. */
  shape: Shape;
  marks: Marks;
  recipe: Recipe;
}

/**
 * A sound's recipe with the loop that is wanted: its loop step changed, or one put behind the others. No crossfade
 * or tail is longer than its sound has room for. What runs back and forth is unrolled.
 * @throws bad-span, not-allowed where it cannot be
 */
export function withLoop(sound: LoopingSound, wish: LoopForMany): Recipe {
  const { recipe, shape, marks } = sound;
  const at = wish.where === 'own' ? lastLoop(recipe) : -1;
  if (at >= 0) {
    const step = recipe.steps[at]!;
    const before = { version: 1 as const, steps: recipe.steps.slice(0, at) };
    const { frames, rateHz } = shapeAfter(before, shape);
    const own = step.params as unknown as LoopParams;
    // What begins with the sound may begin later.
    const params = made(own, wish, { frames, rateHz }, own.startFrame === 0);
    return put(recipe, at, { ...step, params: { ...params } }, shape);
  }
  const after = shapeAfter(recipe, shape);
  const { steps, span, isOpen } = placed(marksAfter(recipe, shape, marks).loop, after.frames, wish);
  const frames = steps.reduce((sum, step) => sum + wayBackOf(step), after.frames);
  const plain: LoopParams = { ...span, introFrames: 0, tailFrames: 0, seam: 'cut' };
  const params = made(plain, wish, { frames, rateHz: after.rateHz }, isOpen);
  const last: Step = { kind: 'loop', on: true, params: { ...params } };
  const all = { version: 1 as const, steps: [...recipe.steps, ...steps, last] };
  shapeAfter(all, shape);
  return all;
}

function lastLoop(recipe: Recipe): number {
  return recipe.steps.findLastIndex(({ on, kind }) => on && kind === 'loop');
}

function put(recipe: Recipe, at: number, step: Step, shape: Shape): Recipe {
  const changed = { ...recipe, steps: recipe.steps.map((old, i) => (i === at ? step : old)) };
  shapeAfter(changed, shape);
  return changed;
}

/** Where it is to loop, in frames behind its recipe, with what has to be done first. */
function placed(
  stated: Loop | null,
  frames: number,
  { where }: LoopForMany,
): { steps: Step[]; span: Stretch; isOpen: boolean } {
  if (typeof where === 'object') return { steps: [], span: where, isOpen: false };
  if (where === 'whole' || !stated) {
    return { steps: [], span: { startFrame: 0, endFrame: frames }, isOpen: true };
  }
  const { startFrame, endFrame } = stated;
  if (!stated.isBackAndForth) return { steps: [], span: { startFrame, endFrame }, isOpen: false };
  const unroll: Step = { kind: 'unroll', on: true, params: { startFrame, endFrame } };
  const end = endFrame + wayBackFrames(stated);
  return { steps: [unroll], span: { startFrame, endFrame: end }, isOpen: false };
}

function wayBackOf({ params }: Step): number {
  return wayBackFrames(params as unknown as Stretch);
}

/** The loop with its seam made. `isOpen` says that it may begin later. */
function made(
  loop: LoopParams,
  wish: LoopForMany,
  { frames, rateHz }: Pick<Shape, 'frames' | 'rateHz'>,
  isOpen: boolean,
): LoopParams {
  const inFrames = (seconds: number) => Math.round(seconds * rateHz);
  const { seam } = wish;
  if (seam === null) return loop;
  if (seam === 'cut') return { ...loop, seam };
  if (seam === 'crossfade') {
    const wanted = inFrames(wish.crossfadeSeconds);
    const room = isOpen
      ? crossfadeRoom(loop, wanted)
      : { startFrame: loop.startFrame, crossfadeFrames: Math.min(wanted, mostCrossfade(loop)) };
    if (room.crossfadeFrames === 0) throw nothingInFront();
    return { ...loop, ...room, seam, curve: wish.curve };
  }
  const length = loop.endFrame - loop.startFrame;
  const tailFrames = Math.min(inFrames(wish.tailSeconds), frames - loop.endFrame, length);
  if (tailFrames === 0) throw nothingBehind();
  return { ...loop, tailFrames, seam, tailDb: wish.tailDb };
}

/** Sounds that do not lie on each other frame by frame cannot have one loop. @throws not-allowed that names them */
export function checkAligned(
  sounds: readonly { name: string; shape: Pick<Shape, 'frames' | 'rateHz'> }[],
): void {
  const [first, ...others] = sounds;
  const other = others.find(
    ({ shape }) => shape.frames !== first!.shape.frames || shape.rateHz !== first!.shape.rateHz,
  );
  if (!first || !other) return;
  throw new BijouError(
    'not-allowed',
    `“${first.name}” and “${other.name}” are not of the same length and rate: one loop does not fit both.`,
    'Choose only the stems of one piece, or give each its own loop.',
  );
}

/** The length and rate of a sound behind its recipe, without the loop that it may get anew. */
export function shapeWithoutLoop({ recipe, shape }: LoopingSound): Shape {
  const at = lastLoop(recipe);
  return shapeAfter({ version: 1, steps: recipe.steps.filter((_, i) => i !== at) }, shape);
}

function nothingInFront(): BijouError {
  return new BijouError(
    'not-allowed',
    'Nothing lies in front of its loop that the end could fade into.',
    'Let it begin later, or mark the whole as a loop.',
  );
}

function nothingBehind(): BijouError {
  return new BijouError(
    'not-allowed',
    'Nothing lies behind its loop that could ring.',
    'Let it end earlier, where the music ends and the rest only rings.',
  );
}
