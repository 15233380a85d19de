import { BijouError } from '../errors';
import { blockFrames, type PcmStream } from '../pcm/pcm';
import type { PcmSource } from '../pcm/source';
import { interpolate, predictor, residual } from './autoregression';

/** One place that is to be mended, with what belongs there. */
export interface Click {
  channel: number;
  startFrame: number;
  samples: Float32Array;
}

export interface DeclickOptions {
  /** How many times louder than usual something unforeseen must be to count as a click. */
  threshold: number;
  /** Longest click, in frames; longer ones are taken for sound. */
  mostFrames: number;
}

/** No click is longer than this. */
const LONGEST = 64;

export const declickDefaults: DeclickOptions = { threshold: 14, mostFrames: LONGEST };

/** Frames that are looked at together, and those around them that are only context. */
const STEP = 2_048;
const CONTEXT = 512;
const ORDER = 24;
/** Unforeseen amplitudes below this are never clicks: they could not be heard. */
const LEAST = 0.002;

/** More than this in one sound are not clicks but the sound. */
const MOST_CLICKS = 100_000;

/**
 * Finds impulses by what linear prediction does not foresee, and interpolates them from both sides.
 * @throws not-legal when there are so many that they cannot be clicks.
 */
export async function findClicks(pcm: PcmStream, options: DeclickOptions): Promise<Click[]> {
  const found: Click[] = [];
  const menders = Array.from(
    { length: pcm.channelCount },
    (_, channel) =>
      new Mender(options, (startFrame, samples) => found.push({ channel, startFrame, samples })),
  );
  for await (const block of pcm.blocks) {
    block.forEach((channel, c) => menders[c]!.push(channel));
    if (found.length > MOST_CLICKS) throw tooMany();
  }
  for (const mender of menders) mender.finish();
  return found.sort((a, b) => a.startFrame - b.startFrame);
}

/** Puts in what was found to belong there; everything else passes bit for bit. `clicks` in order of time. */
export function mendClicks(source: PcmSource, clicks: readonly Click[]): PcmSource {
  if (clicks.length === 0) return source;
  return {
    ...source,
    gridBits: null,
    async *from(startFrame) {
      let at = startFrame;
      let next = 0;
      for await (const block of source.from(startFrame)) {
        const end = at + blockFrames(block);
        while (next < clicks.length && clicks[next]!.startFrame + LONGEST <= at) next++;
        const out = [...block];
        for (let i = next; i < clicks.length && clicks[i]!.startFrame < end; i++) {
          const { channel, startFrame: first, samples } = clicks[i]!;
          if (out[channel] === block[channel]) out[channel] = block[channel]!.slice();
          samples.forEach((x, n) => {
            if (first + n >= at && first + n < end) out[channel]![first + n - at] = x;
          });
        }
        yield out;
        at = end;
      }
    },
  };
}

function tooMany(): BijouError {
  return new BijouError(
    'not-legal',
    'So much of this sound is sudden that clicks cannot be told from it.',
    'Raise the threshold, or take the step out.',
  );
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
    private readonly onFound: (startFrame: number, samples: Float32Array) => void,
  ) {}

  push(samples: Float32Array): void {
    const joined = new Float32Array(this.held.length + samples.length);
    joined.set(this.held);
    joined.set(samples, this.held.length);
    this.held = joined;
    const steps = Math.max(0, Math.floor((joined.length - 2 * CONTEXT) / STEP));
    this.run(steps * STEP);
  }

  finish(): void {
    const left = this.held.length - CONTEXT;
    const padded = new Float32Array(this.held.length + CONTEXT);
    padded.set(this.held);
    this.held = padded;
    this.run(left);
  }

  private run(frames: number): void {
    for (let done = 0; done < frames; done += STEP) {
      const count = Math.min(STEP, frames - done);
      this.mend(this.held.subarray(done, done + CONTEXT + count + CONTEXT), this.at + done, count);
    }
    this.held = this.held.slice(frames);
    this.at += frames;
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
      this.onFound(frame, span.slice(start, start + frames));
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
  return smallest(values.map(Math.abs), values.length >> 1);
}

/** The value that would stand at place `n` if all were sorted (Hoare's selection); reorders `values`. */
function smallest(values: Float64Array, n: number): number {
  let [low, high] = [0, values.length - 1];
  while (low < high) {
    const pivot = values[n]!;
    let [i, j] = [low, high];
    while (i <= j) {
      while (values[i]! < pivot) i++;
      while (values[j]! > pivot) j--;
      if (i > j) continue;
      [values[i], values[j]] = [values[j]!, values[i]!];
      i++;
      j--;
    }
    if (j < n) low = i;
    if (n < i) high = j;
  }
  return values[n] ?? 0;
}
