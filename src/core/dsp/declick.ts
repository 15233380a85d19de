import { blockFrames, type Block, type PcmStream } from '../pcm/pcm';
import { interpolate, predictor, residual } from './autoregression';

/** One place that was mended. */
export interface Mended {
  channel: number;
  startFrame: number;
  frames: number;
}

export interface DeclickOptions {
  /** How many times louder than usual something unforeseen must be to count as a click. */
  threshold: number;
  /** Longest click, in frames; longer ones are taken for sound. */
  mostFrames: number;
}

export const declickDefaults: DeclickOptions = { threshold: 14, mostFrames: 64 };

/** Frames that are looked at together, and those around them that are only context. */
const STEP = 2_048;
const CONTEXT = 512;
const ORDER = 24;
/** Unforeseen amplitudes below this are never clicks: they could not be heard. */
const LEAST = 0.002;

/**
 * Finds impulses by what linear prediction does not foresee, and interpolates them from both sides.
 * Everything else passes bit for bit. `onMended` is told of each place.
 */
export function declick(
  pcm: PcmStream,
  options: DeclickOptions,
  onMended: (place: Mended) => void,
): PcmStream {
  async function* blocks(): AsyncGenerator<Block> {
    const menders = Array.from(
      { length: pcm.channelCount },
      (_, channel) =>
        new Mender(options, (startFrame, frames) => onMended({ channel, startFrame, frames })),
    );
    for await (const block of pcm.blocks) {
      const out = block.map((channel, c) => menders[c]!.push(channel));
      if (blockFrames(out) > 0) yield out;
    }
    const rest = menders.map((mender) => mender.finish());
    if (blockFrames(rest) > 0) yield rest;
  }
  return { ...pcm, gridBits: null, blocks: blocks() };
}

/** One channel: holds back what still lacks its context. */
class Mender {
  /** Begins with `CONTEXT` frames that were given out already. */
  private held: Float32Array = new Float32Array(CONTEXT);
  /** Place in the sound of the first frame that was not given out. */
  private at = 0;
  /** A click's end is not mended twice by the next stretch. */
  private mendedUpTo = 0;

  constructor(
    private readonly options: DeclickOptions,
    private readonly onMended: (startFrame: number, frames: number) => void,
  ) {}

  push(samples: Float32Array): Float32Array {
    const joined = new Float32Array(this.held.length + samples.length);
    joined.set(this.held);
    joined.set(samples, this.held.length);
    this.held = joined;
    const steps = Math.max(0, Math.floor((joined.length - 2 * CONTEXT) / STEP));
    return this.run(steps * STEP);
  }

  finish(): Float32Array {
    const left = this.held.length - CONTEXT;
    const padded = new Float32Array(this.held.length + CONTEXT);
    padded.set(this.held);
    this.held = padded;
    return this.run(left);
  }

  private run(frames: number): Float32Array {
    for (let done = 0; done < frames; done += STEP) {
      const count = Math.min(STEP, frames - done);
      this.mend(this.held.subarray(done, done + CONTEXT + count + CONTEXT), this.at + done, count);
    }
    const out = this.held.slice(CONTEXT, CONTEXT + frames);
    this.held = this.held.slice(frames);
    this.at += frames;
    return out;
  }

  /** Mends `count` frames that lie behind `CONTEXT` frames of `span`, in place. */
  private mend(span: Float32Array, firstFrame: number, count: number): void {
    const signal = Float64Array.from(span);
    const a = predictor(signal, ORDER);
    const unforeseen = residual(signal, a);
    const usual = median(unforeseen.subarray(ORDER)) / 0.6745;
    const limit = Math.max(LEAST, this.options.threshold * usual);
    for (const { start, frames } of this.bursts(unforeseen, limit, count)) {
      const frame = firstFrame + start - CONTEXT;
      if (frame < this.mendedUpTo || start + frames > span.length - ORDER) continue;
      if (isEdge(signal, start, start + frames)) continue;
      interpolate(signal, a, start, frames);
      for (let i = start; i < start + frames; i++) span[i] = signal[i]!;
      this.mendedUpTo = frame + frames;
      this.onMended(frame, frames);
    }
  }

  /** Runs of what is unforeseen, short enough for a click. One sample disturbs the prediction of `ORDER` more. */
  private bursts(unforeseen: Float64Array, limit: number, count: number) {
    const found: { start: number; frames: number }[] = [];
    for (let i = CONTEXT; i < CONTEXT + count; i++) {
      if (Math.abs(unforeseen[i]!) <= limit) continue;
      let last = i;
      let end = i + 1;
      for (; end < unforeseen.length && end - last <= ORDER / 2; end++) {
        if (Math.abs(unforeseen[end]!) > limit) last = end;
      }
      const frames = last - i + 1;
      if (frames <= this.options.mostFrames) found.push({ start: i, frames });
      i = end;
    }
    return found;
  }
}

/** Frames on both sides whose levels are compared, and how many times one must be louder. */
const EDGE_FRAMES = 128;
const EDGE_RATIO = 8;

/** Whether sound begins or ends here: a click has the same sound on both sides, or none on both. */
function isEdge(signal: Float64Array, start: number, end: number): boolean {
  const before = rms(signal.subarray(Math.max(0, start - EDGE_FRAMES), start));
  const after = rms(signal.subarray(end, end + EDGE_FRAMES));
  return (
    Math.max(before, after) > LEAST &&
    Math.max(before, after) > EDGE_RATIO * Math.min(before, after)
  );
}

function rms(part: Float64Array): number {
  return Math.sqrt(part.reduce((sum, x) => sum + x * x, 0) / Math.max(1, part.length));
}

function median(values: Float64Array): number {
  const sizes = values.map(Math.abs).sort();
  return sizes[sizes.length >> 1] ?? 0;
}
