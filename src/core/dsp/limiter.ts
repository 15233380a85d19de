import { blockFrames, sliceBlock, type Block, type PcmStream } from '../pcm/pcm';
import { pieced, type PcmSource, type Piece } from '../pcm/source';
import { inFront } from './interpolator';
import { intoLoop, lengthOf, loopAround, outOfLoop } from './loopPlay';
import { LOOK_AHEAD, PeakSizes } from './peakSizes';

/** Attenuation is counted in whole units, so that it is the same to the last bit wherever reading began. */
const UNITS_PER_DB = 2 ** 20;
const MOST_DB = 200;
/** Turning a gain lifts what lies between samples a little. */
const MARGIN_DB = 0.03;
const SEAM_DB = 6;
const ATTACK_SECONDS = 0.005;
/** Half a wave of 20 Hz: a gain that came back between the crests of a deep tone would distort it. */
const MOST_HOLD_MS = 25;
/** Of a short release a part. */
const HOLD_SHARE = 0.25;

export interface Limit {
  /** True peak in dBTP that is not gone beyond. */
  ceilingDbtp: number;
  /** Milliseconds in which the level comes back by 10 dB. */
  releaseMs: number;
}

/** How far the loudest moment of a sound lies above a ceiling, in units; 0 where nothing does. */
export async function deepestOf(pcm: PcmStream, limit: Limit): Promise<number> {
  const sizes = new PeakSizes(pcm.channelCount, threshold(limit));
  let deepest = 0;
  const look = (found: Float32Array) => {
    for (const units of unitsOf(found, limit)) if (units > deepest) deepest = units;
  };
  for await (const block of pcm.blocks) look(sizes.push(block));
  look(sizes.finish());
  return deepest;
}

/** How far that is, in dB. */
export function depthDb(deepest: number): number {
  return deepest / UNITS_PER_DB;
}

/**
 * Turns down only the moments that lie above the ceiling, all channels alike. The gain falls within 5 ms in front
 * of a peak (look-ahead), stays low for it and for half a wave of the lowest tones, and comes back in the given time; smoothed over the same 5 ms, so
 * that it never jumps. Everywhere else every sample is the same to the bit.
 *
 * The gain at a frame depends on frames around it alone: `deepest`, from `deepestOf`, says how far. Around the ends of a
 * loop lies its other end.
 */
export function limited(source: PcmSource, limit: Limit, deepest: number): PcmSource {
  if (deepest === 0) return source;
  const { frames, loop } = source;
  const along = (supply: Supply, startFrame: number, endFrame: number): Piece => ({
    frames: endFrame - startFrame,
    from: (skip) => limitedAlong(source, limit, deepest, supply, startFrame + skip, endFrame),
  });
  const pieces = loop
    ? [
        along((from) => intoLoop(source, loop, from), 0, loop.startFrame),
        along((from) => loopAround(source, loop, from), 0, lengthOf(loop)),
        along((from) => outOfLoop(source, loop, from), loop.endFrame, frames),
      ]
    : [along((from) => inFront(source, from), 0, frames)];
  return { ...source, gridBits: null, from: (startFrame) => pieced(pieces, startFrame) };
}

/** Blocks from any frame on, which may lie in front of the sound. */
type Supply = (from: number) => AsyncIterable<Block>;

/** Frames `startFrame` up to `endFrame` of what is supplied, turned down. */
async function* limitedAlong(
  source: PcmSource,
  limit: Limit,
  deepest: number,
  supply: Supply,
  startFrame: number,
  endFrame: number,
): AsyncGenerator<Block> {
  const curve = new GainCurve(source, limit);
  // At a seam that jumps the sound can rise higher than anywhere in it.
  const depth = deepest + (source.loop ? SEAM_DB * UNITS_PER_DB : 0);
  const reach = curve.lookBack + curve.hold + Math.ceil(depth / curve.release);
  // The filter needs some more in front of the first frame that counts.
  const warmUp = 2 * LOOK_AHEAD;
  const waiting: Block[] = [];
  let skip = reach + warmUp;
  let left = endFrame - startFrame;
  let unheard = warmUp;
  const ready = function* (gains: Float64Array): Generator<Block> {
    for (let at = 0; at < gains.length && left > 0;) {
      const block = waiting[0]!;
      const take = Math.min(blockFrames(block), gains.length - at);
      if (take === blockFrames(block)) waiting.shift();
      else waiting[0] = sliceBlock(block, take, blockFrames(block));
      const drop = Math.min(skip, take);
      skip -= drop;
      const end = Math.min(take, drop + left);
      left -= end - drop;
      if (drop < end) {
        const part = end - drop === blockFrames(block) ? block : sliceBlock(block, drop, end);
        yield turnedDown(part, gains.subarray(at + drop, at + end));
      }
      at += take;
    }
  };
  for await (const block of supply(startFrame - reach - warmUp)) {
    waiting.push(block);
    const units = curve.look(block);
    const deaf = Math.min(unheard, units.length);
    units.fill(0, 0, deaf);
    unheard -= deaf;
    yield* ready(curve.push(units));
    if (left === 0) return;
  }
  yield* ready(curve.finish());
}

function threshold({ ceilingDbtp }: Limit): number {
  return 10 ** ((ceilingDbtp - MARGIN_DB) / 20);
}

/** How far each size lies above the ceiling; 0 for what does not. */
function unitsOf(sizes: Float32Array, limit: Limit): Int32Array {
  const most = threshold(limit);
  const units = new Int32Array(sizes.length);
  for (let i = 0; i < units.length; i++) {
    const size = sizes[i]!;
    if (size > most) {
      const db = Math.min(MOST_DB, 20 * Math.log10(size / most));
      units[i] = Math.ceil(db * UNITS_PER_DB);
    }
  }
  return units;
}

/** A block with its gains in dB below 0; itself where there are none. */
function turnedDown(block: Block, gains: Float64Array): Block {
  if (gains.every((gain) => gain === 1)) return block;
  return block.map((channel) => channel.map((x, i) => (gains[i] === 1 ? x : x * gains[i]!)));
}

/** From how far peaks lie above the ceiling to how far each frame is turned down. */
class GainCurve {
  /** Units by which the attenuation falls from frame to frame. */
  readonly release: number;
  /** Frames behind a peak that its smoothing reaches. */
  readonly lookBack: number;
  /** Frames for which the gain stays where a peak has brought it, before it comes back. */
  readonly hold: number;
  /** Length of each of the two means that smooth the curve. */
  private readonly mean: number;
  /** Largest value of the last frames: places and values, falling. */
  private highest: { at: number; units: number }[] = [];
  private held = 0;
  private readonly means: [RunningSum, RunningSum];
  private readonly sizes: PeakSizes;
  private pushed = 0;

  constructor(
    { rateHz, channelCount }: PcmSource,
    private readonly limit: Limit,
  ) {
    this.mean = Math.max(1, Math.round((ATTACK_SECONDS / 2) * rateHz));
    this.lookBack = 2 * this.mean - 2;
    const holdMs = Math.min(MOST_HOLD_MS, limit.releaseMs * HOLD_SHARE);
    this.hold = Math.round((holdMs / 1_000) * rateHz);
    const frames = ((limit.releaseMs - holdMs) / 1_000) * rateHz;
    this.release = Math.max(1, Math.round((10 * UNITS_PER_DB) / frames));
    this.means = [new RunningSum(this.mean), new RunningSum(this.mean)];
    this.sizes = new PeakSizes(channelCount, threshold(limit));
  }

  /** How far the next frames lie above the ceiling. */
  look(block: Block): Int32Array {
    return unitsOf(this.sizes.push(block), this.limit);
  }

  /** Gains of the next frames that are known: `lookBack` fewer than were pushed. */
  push(units: Int32Array): Float64Array {
    const gains = new Float64Array(units.length).fill(1);
    const isQuiet = this.isAtRest() && units.every((one) => one === 0);
    if (!isQuiet) for (let i = 0; i < units.length; i++) gains[i] = this.gainAfter(units[i]!, i);
    // The first gains would lie in front of the sound.
    const early = Math.max(0, Math.min(units.length, this.lookBack - this.pushed));
    this.pushed += units.length;
    return gains.subarray(early);
  }

  finish(): Float64Array {
    const rest = unitsOf(this.sizes.finish(), this.limit);
    const padded = new Int32Array(rest.length + this.lookBack);
    padded.set(rest);
    return this.push(padded);
  }

  private isAtRest(): boolean {
    return this.highest.length === 0 && this.held === 0 && this.means.every(({ sum }) => sum === 0);
  }

  private gainAfter(units: number, i: number): number {
    const { highest, means, mean } = this;
    const at = this.pushed + i;
    // What is larger later counts for longer.
    while (highest.length > 0 && highest.at(-1)!.units <= units) highest.pop();
    if (units > 0) highest.push({ at, units });
    if (highest[0] && highest[0].at < at - this.lookBack - this.hold) highest.shift();
    this.held = Math.max(highest[0]?.units ?? 0, this.held - this.release, 0);
    const sum = means[1].push(means[0].push(this.held));
    if (sum === 0) return 1;
    return 10 ** (-Math.floor(sum / (mean * mean)) / UNITS_PER_DB / 20);
  }
}

/** The sum of the last values. Of whole numbers, so that nothing is ever left of those that went. */
class RunningSum {
  sum = 0;
  private at = 0;
  private readonly values: Float64Array;

  constructor(length: number) {
    this.values = new Float64Array(length);
  }

  push(value: number): number {
    this.sum += value - this.values[this.at]!;
    this.values[this.at] = value;
    this.at = (this.at + 1) % this.values.length;
    return this.sum;
  }
}
