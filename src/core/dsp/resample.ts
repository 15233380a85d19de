import { blockFrames, inBlocks, type Block } from '../pcm/pcm';
import { emptyChannels, type PcmSource } from '../pcm/source';
import { filterBank, type FilterBank } from './filterBank';
import { runPolyphase, type Place } from './kernel/polyphase';

/** Length after a rate change, in frames. Exact: it depends on nothing but these three numbers. */
export function resampledFrames(frames: number, fromHz: number, toHz: number): number {
  return fromHz === toHz
    ? frames
    : Math.max(frames > 0 ? 1 : 0, Math.round((frames * toHz) / fromHz));
}

/**
 * Converts to another rate; the pitch stays, the filter's delay is taken out, edges meet silence. From any
 * frame on it gives the very same frames.
 */
export function resampled(source: PcmSource, toHz: number): PcmSource {
  if (source.rateHz === toHz) return source;
  const { rateHz, channelCount, frames } = source;
  return {
    ...source,
    rateHz: toHz,
    frames: resampledFrames(frames, rateHz, toHz),
    gridBits: null,
    async *from(startFrame) {
      const resampler = new Resampler(rateHz, toHz, channelCount, startFrame);
      for await (const block of source.from(Math.min(frames, resampler.firstInput))) {
        yield* inBlocks(resampler.push(block));
      }
      yield* inBlocks(resampler.finish());
    },
  };
}

/** Streaming polyphase resampler. Cutting its input into other blocks never changes its output. */
export class Resampler {
  private readonly up: number;
  private readonly down: number;
  private readonly bank: FilterBank;
  /** Input not yet passed, per channel; begins with the filter's look-back. */
  private readonly held: Float32Array[];
  private heldFrames: number;
  /** Place of the next output frame: whole input frames into `held`, and `phase`/`up` of one more. */
  private at = 0;
  private phase: number;
  private framesIn: number;
  private framesOut: number;
  /** The first input frame that is needed. */
  readonly firstInput: number;

  /** Begins with output frame `startFrame`. What lies above `wantedHz` need not be right. */
  constructor(
    private readonly fromHz: number,
    private readonly toHz: number,
    channelCount: number,
    startFrame = 0,
    wantedHz = Infinity,
  ) {
    const divisor = gcd(fromHz, toHz);
    this.up = toHz / divisor;
    this.down = fromHz / divisor;
    this.bank = filterBank(this.up, this.down, Math.min(1, wantedHz / fromHz));
    const lookBack = this.bank.taps / 2 - 1;
    // A long sound times a fine ratio leaves the whole numbers that a double holds.
    const place = BigInt(startFrame) * BigInt(this.down);
    const centre = Number(place / BigInt(this.up));
    this.phase = Number(place % BigInt(this.up));
    this.firstInput = Math.max(0, centre - lookBack);
    this.framesIn = this.firstInput;
    this.framesOut = startFrame;
    // In front of the sound is silence.
    this.heldFrames = Math.max(0, lookBack - centre);
    this.held = emptyChannels(channelCount, this.heldFrames);
  }

  push(block: Block): Block {
    const frames = blockFrames(block);
    this.framesIn += frames;
    this.append(block, frames);
    const ready = this.heldFrames - this.bank.taps - this.at;
    if (ready < 0) return this.held.map(() => new Float32Array(0));
    // Output frames whose whole filter lies inside what is held.
    const count = Math.floor((ready * this.up + this.up - 1 - this.phase) / this.down) + 1;
    return this.produce(count);
  }

  /** Flushes against silence, giving exactly `resampledFrames` in total. */
  finish(): Block {
    const count = resampledFrames(this.framesIn, this.fromHz, this.toHz) - this.framesOut;
    if (count <= 0) return this.held.map(() => new Float32Array(0));
    const last = this.at + Math.floor((this.phase + (count - 1) * this.down) / this.up);
    const missing = Math.max(0, last + this.bank.taps - this.heldFrames);
    this.append(
      this.held.map(() => new Float32Array(missing)),
      missing,
    );
    return this.produce(count);
  }

  private append(block: Block, frames: number): void {
    const drop = Math.min(this.at, this.heldFrames);
    const keep = this.heldFrames - drop;
    this.held.forEach((old, c) => {
      const joined = new Float32Array(keep + frames);
      joined.set(old.subarray(drop, this.heldFrames));
      joined.set(block[c]!, keep);
      this.held[c] = joined;
    });
    this.at -= drop;
    this.heldFrames = keep + frames;
  }

  private produce(count: number): Block {
    const most = Math.max(0, count);
    const out = this.held.map(() => new Float32Array(most));
    const run = this.bank.exact ? runPolyphase : runInterpolated;
    const place = { at: this.at, phase: this.phase, up: this.up, down: this.down };
    out.forEach((channel, c) => {
      run(this.bank, place, this.held[c]!.subarray(0, this.heldFrames), channel);
    });
    const moved = this.phase + most * this.down;
    this.at += Math.floor(moved / this.up);
    this.phase = moved % this.up;
    this.framesOut += most;
    return out;
  }
}

/** As the kernel does, for ratios with too many phases: linear between neighbouring rows of the table. */
function runInterpolated(
  bank: FilterBank,
  { at, phase, up, down }: Place,
  input: Float32Array,
  output: Float32Array,
): void {
  const { taps, coefficients, phases } = bank;
  for (let n = 0; n < output.length; n++) {
    const between = (phase / up) * phases;
    const row = Math.floor(between) * taps;
    let low = 0;
    let high = 0;
    for (let t = 0; t < taps; t++) {
      low += coefficients[row + t]! * input[at + t]!;
      high += coefficients[row + taps + t]! * input[at + t]!;
    }
    output[n] = low + (between - Math.floor(between)) * (high - low);
    phase += down;
    at += Math.floor(phase / up);
    phase %= up;
  }
}

function gcd(a: number, b: number): number {
  while (b) [a, b] = [b, a % b];
  return a;
}
