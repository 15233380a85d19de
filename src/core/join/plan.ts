import { BijouError } from '../errors';
import type { Layout } from '../dsp/channels';
import { speakersOf } from '../pcm/speakers';
import { kilohertz, layoutName } from '../tradeNames';
import { noMarks, type Loop } from '../marks';
import { pieceRecipe, pieceWords, type LoopPiece } from '../loop/parts';
import type { ListedFacts } from '../measure/probe';
import { shapeAfter } from '../recipe/recipe';
import { shapeOf, type Recipe, type Shape, type Step } from '../recipe/types';
import { formatTime } from '../time';

/** One sound of a join. */
export interface JoinPart {
  soundId: number;
  /** Silence behind it, before the next begins; below 0 the next begins before it ends. */
  gapSeconds: number;
  /** Only this piece of its loop; all of it where nothing is said. */
  piece?: LoopPiece | undefined;
}

/** Sounds one behind the other, as data. */
export interface Join {
  parts: JoinPart[];
  /** What happens where two overlap. */
  overlap: 'crossfade' | 'mix';
  /** Rate and channels of the whole; null for the most that any part has. */
  rateHz: number | null;
  channelCount: number | null;
}

/** A sound as far as a join of it has to know it. */
interface JoinedSound {
  name: string;
  facts: ListedFacts;
  recipe: Recipe;
}

/** A sound, or a piece of its loop, as a part. @throws not-allowed where it has no such piece */
export function partFacts(
  { name, facts, recipe }: JoinedSound,
  { piece }: Pick<JoinPart, 'piece'>,
): PartFacts {
  const { bitDepth, loop } = facts;
  const shape = shapeOf(facts);
  const part = { shape, loop, recipe, bitDepth };
  if (piece) naming(name, () => pieceRecipe(recipe, shape, facts, piece));
  return piece ? { ...part, piece, name: `${name} ${pieceWords[piece]}` } : { ...part, name };
}

/** What is known of a part when a join is planned. */
export interface PartFacts {
  name: string;
  /** Of its source. */
  shape: Shape;
  /** Of its source. */
  loop?: Loop | null;
  recipe: Recipe;
  /** What of its loop is the part; all of the sound where nothing is said. */
  piece?: LoopPiece;
  bitDepth: number | null;
}

/** Where a part lies in the whole, and what has to be done to it. */
export interface PlacedPart {
  name: string;
  startFrame: number;
  frames: number;
  /** Frames at its beginning and its end that it shares with its neighbours. */
  sharedBefore: number;
  sharedBehind: number;
  /** Its own, and what conforms it. */
  recipe: Recipe;
  /** What is converted and why, in words. */
  conversions: string[];
}

export interface PlannedJoin {
  shape: Shape;
  placed: PlacedPart[];
}

export const MOST_PARTS = 2_000;

/**
 * Places the parts of a join and conforms them: one rate, one layout, 32-bit float samples.
 * @throws not-allowed, bad-span, not-legal with the part's name
 */
export function planJoin(join: Join, parts: readonly PartFacts[]): PlannedJoin {
  if (parts.length === 0) throw nothing();
  const shapes = parts.map(({ name, shape, recipe }) =>
    naming(name, () => shapeAfter(recipe, shape)),
  );
  const rateHz = join.rateHz ?? Math.max(...shapes.map((shape) => shape.rateHz));
  const layout: Layout = join.channelCount
    ? { channelCount: join.channelCount }
    : commonLayout(shapes);
  const placed: PlacedPart[] = [];
  let startFrame = 0;
  shapes.forEach((shape, i) => {
    const part = parts[i]!;
    const { name } = part;
    const { steps, conversions } = conforming(shape, part.bitDepth, { rateHz, ...layout });
    const recipe = naming(name, () => conformed(part, steps));
    const { frames } = naming(name, () => shapeAfter(recipe, part.shape));
    const isLast = i === shapes.length - 1;
    const gap = isLast ? 0 : Math.round((join.parts[i]?.gapSeconds ?? 0) * rateHz);
    const sharedBefore = placed.at(-1)?.sharedBehind ?? 0;
    const sharedBehind = Math.max(0, -gap);
    if (sharedBefore + sharedBehind > frames) throw tooMuchShared(name, frames / rateHz);
    placed.push({
      name,
      startFrame,
      frames,
      sharedBefore,
      sharedBehind,
      recipe,
      conversions,
    });
    startFrame += frames + gap;
  });
  return { shape: { rateHz, ...layout, frames: startFrame }, placed };
}

/** A piece is cut out of the conformed sound: at the rate of the whole its ends still meet those of its loop. */
function conformed({ recipe, shape, loop = null, piece }: PartFacts, steps: Step[]): Recipe {
  const whole = { ...recipe, steps: [...recipe.steps, ...steps] };
  return piece ? pieceRecipe(whole, shape, { ...noMarks, loop }, piece) : whole;
}

/** Alike layouts stay; else stereo, which everything can become. */
function commonLayout([first, ...others]: readonly Shape[]): Layout {
  const isCommon = first && others.every((shape) => isSameLayout(shape, first));
  if (!isCommon) return { channelCount: 2 };
  return { channelCount: first.channelCount, speakerMask: first.speakerMask };
}

/** Stereo is stereo: what two channels are meant for is no reason to mix them. */
function isSameLayout(a: Layout, b: Layout): boolean {
  const speakers = ({ channelCount, speakerMask }: Layout) =>
    speakersOf(channelCount, speakerMask)?.join() ?? '';
  if (a.channelCount !== b.channelCount) return false;
  return a.channelCount <= 2 || speakers(a) === speakers(b);
}

function conforming(
  shape: Shape,
  bitDepth: number | null,
  whole: Omit<Shape, 'frames'>,
): { steps: Step[]; conversions: string[] } {
  const steps: Step[] = [];
  const conversions: string[] = [];
  if (!isSameLayout(shape, whole)) {
    const mode = whole.channelCount === 1 ? 'mix' : 'stereo';
    steps.push({ kind: 'channels', on: true, params: { mode } });
    const how =
      shape.channelCount === 1
        ? 'the same on both sides'
        : whole.channelCount === 1
          ? 'its channels are mixed'
          : 'mixed down';
    conversions.push(
      `${layoutName(shape.channelCount)} → ${layoutName(whole.channelCount)}: ${how}, for a join has one layout`,
    );
  }
  if (shape.rateHz !== whole.rateHz) {
    steps.push({ kind: 'resample', on: true, params: { rateHz: whole.rateHz } });
    conversions.push(
      `${kilohertz(shape.rateHz)} → ${kilohertz(whole.rateHz)}: resampled, for a join has one rate`,
    );
  }
  if (bitDepth !== null && bitDepth < 32) {
    conversions.push(`${bitDepth}-bit → 32-bit float: nothing is lost`);
  }
  return { steps, conversions };
}

function naming<T>(name: string, work: () => T): T {
  try {
    return work();
  } catch (error) {
    if (!(error instanceof BijouError)) throw error;
    throw new BijouError(
      error.code,
      `“${name}” cannot be joined: ${error.message}`,
      'Mend its recipe, or take it out of the join.',
    );
  }
}

function nothing(): BijouError {
  return new BijouError(
    'not-allowed',
    'There is nothing to join.',
    'Put at least one sound into the list.',
  );
}

function tooMuchShared(name: string, seconds: number): BijouError {
  return new BijouError(
    'bad-span',
    `“${name}” is only ${formatTime(seconds)} long, shorter than its overlaps.`,
    'Make the overlap shorter than the sounds on both its sides.',
  );
}

/** The offsets of a join's parts in words that scripts and pages read. */
export interface SheetLine {
  name: string;
  startFrame: number;
  frames: number;
  startSeconds: number;
  seconds: number;
}

/**
 * Where each part lies in the joined sound behind its own recipe. `forward` tells where a frame lands;
 * parts that were cut away are left out.
 */
export function sheetOf(
  placed: readonly Pick<PlacedPart, 'name' | 'startFrame' | 'frames'>[],
  span: (part: { startFrame: number; endFrame: number }) => {
    startFrame: number;
    endFrame: number;
  } | null,
  rateHz: number,
): SheetLine[] {
  return placed.flatMap(({ name, startFrame, frames }) => {
    const found = span({ startFrame, endFrame: startFrame + frames });
    if (!found) return [];
    const length = found.endFrame - found.startFrame;
    return [
      {
        name,
        startFrame: found.startFrame,
        frames: length,
        startSeconds: found.startFrame / rateHz,
        seconds: length / rateHz,
      },
    ];
  });
}
