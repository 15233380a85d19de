import { interpolate, predictor, residual } from './autoregression';
import type { ClickJudge } from './clickJudge';

export interface DeclickOptions {
  /** How many times louder than usual something unforeseen must be to count as a click. */
  threshold: number;
}

/** Frames of the longest click; what is longer is sound. */
export const LONGEST_CLICK = 40;

/** Frames that are looked at together, and those around them that are only context. */
const STEP = 2_048;
const CONTEXT = 512;
const ORDER = 24;
/** Unforeseen amplitudes below this are never clicks: they could not be heard. */
const LEAST = 0.002;
/** A stretch with more sudden places than this is sudden throughout. */
const MOST_BURSTS = 60;
/** Lengths that are tried for a click, shortest first. */
const LENGTHS = [1, 2, 3, 4, 6, 8, 11, 15, 20, 28, LONGEST_CLICK];
/** A click is this many times louder than anything unforeseen around it. */
const STANDS_OUT = 2.5;
/** What is looked at around a click, in seconds. */
const AROUND_SECONDS = 0.008;
/** How much a click sticks out, at least, of the range of what belongs in its place: an edge does not. */
const STICKS_OUT = 0.8;
/** The same of a step in what both sides forecast, which something long enough could hide. */
const STEPS_OUT = 2;
const SHORTEST_STEP = 6;
/** What else may be sudden so near to a click, in shares of it; and how much of that its tail may be. */
const LEFT = 0.04;
const TAIL = 0.4;
/** Share of its size that a click has at once. */
const AT_ONCE = 0.8;

/** A run of unforeseen samples, in frames of the stretch that is looked at. */
interface Burst {
  start: number;
  /** Behind the last sample that is unforeseen. */
  end: number;
  peak: number;
}

/** How a stretch is foreseen, and above what something in it is sudden. */
interface Model {
  a: Float64Array;
  limit: number;
}

/** Looks for clicks in one channel; holds back what still lacks its context. */
export class ClickFinder {
  /** Begins with `CONTEXT` frames that were looked at already. */
  private held: Float32Array = new Float32Array(CONTEXT);
  /** Place in the sound of the first frame that was not looked at. */
  private at = 0;
  /** What lies in the last click is no further one. */
  private mendedUpTo = 0;
  private readonly around: number;

  constructor(
    private readonly options: DeclickOptions,
    rateHz: number,
    private readonly judge: ClickJudge,
  ) {
    this.around = Math.min(CONTEXT, Math.max(64, Math.round(AROUND_SECONDS * rateHz)));
  }

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
      const span = this.held.subarray(done, done + CONTEXT + count + CONTEXT);
      this.look(Float64Array.from(span), this.at + done - CONTEXT, count);
    }
    this.held = this.held.slice(frames);
    this.at += frames;
  }

  /** Looks at `count` frames behind the context of a stretch that begins at `firstFrame` of the sound. */
  private look(signal: Float64Array, firstFrame: number, count: number): void {
    const rough = this.foreseen(signal);
    const bursts = burstsOf(rough.unforeseen, rough.limit);
    const isHere = ({ start }: Burst) => start >= CONTEXT && start < CONTEXT + count;
    if (!bursts.some(isHere)) return;
    if (bursts.length > MOST_BURSTS) {
      for (const { start, peak } of bursts.filter(isHere)) {
        this.judge.sudden(firstFrame + start, peak);
      }
      return;
    }
    // Clicks disturb the prediction, so it is learned anew from the sound without them.
    const tidy = signal.slice();
    for (const { start, end } of bursts) {
      if (end - start <= LONGEST_CLICK) interpolate(tidy, rough.a, start, end - start);
    }
    const model = this.foreseen(tidy);
    const unforeseen = residual(signal, model.a);
    for (const burst of burstsOf(unforeseen, model.limit)) {
      if (!isHere(burst)) continue;
      const frame = firstFrame + burst.start;
      // A sound's own beginning is sudden, too.
      if (frame < ORDER || frame < this.mendedUpTo) continue;
      const mended = this.mended(signal, tidy, unforeseen, burst, model);
      if (!mended) {
        this.judge.sudden(frame, burst.peak);
        continue;
      }
      const startFrame = frame + mended.shift;
      this.judge.candidate(startFrame, mended.samples, burst.peak);
      this.mendedUpTo = startFrame + mended.samples.length;
    }
  }

  private foreseen(signal: Float64Array) {
    const a = predictor(signal, ORDER);
    const unforeseen = residual(signal, a);
    const usual = median(unforeseen.subarray(ORDER)) / 0.6745;
    return { a, unforeseen, limit: Math.max(LEAST, this.options.threshold * usual) };
  }

  /**
   * What belongs in the place of a burst, if it is a click: the shortest stretch whose replacing leaves nothing
   * unforeseen. An edge or an onset goes on behind itself, so that nothing short explains it.
   */
  private mended(
    signal: Float64Array,
    tidy: Float64Array,
    unforeseen: Float64Array,
    burst: Burst,
    model: Model,
  ): { shift: number; samples: Float32Array } | null {
    if (burst.end - burst.start > LONGEST_CLICK + ORDER) return null;
    if (!this.standsOut(unforeseen, burst, model.limit)) return null;
    if (isEdge(signal, burst)) return null;
    for (const shift of [0, -2]) {
      const samples = this.shortest(signal, tidy, burst, burst.start + shift, model);
      if (!samples) continue;
      return sticksOut(signal, model.a, burst.start + shift, samples, burst.peak)
        ? { shift, samples }
        : null;
    }
    return null;
  }

  /** The shortest replacement from `start` on that leaves nothing sudden, and nothing of its tail if it can. */
  private shortest(
    signal: Float64Array,
    tidy: Float64Array,
    burst: Burst,
    start: number,
    { a, limit }: Model,
  ): Float32Array | null {
    const margin = 2 * ORDER;
    const most = Math.max(limit, LEFT * burst.peak);
    const attempt = (frames: number) => {
      const end = start + frames;
      // Other clicks near by are mended already; of this one everything is as it was.
      const work = tidy.slice(start - margin, end + margin);
      const own = Math.min(Math.max(burst.end, end), end + margin);
      work.set(signal.subarray(start, own), margin);
      interpolate(work, a, margin, frames);
      const left = largest(residual(work, a), margin, margin + frames + ORDER);
      return { left, samples: withinPeak(work, margin, margin + frames) };
    };
    // What the longest cannot explain no shorter one can.
    if (start + LONGEST_CLICK + margin > signal.length) return null;
    if (attempt(LONGEST_CLICK).left > most) return null;
    let found: Float32Array | null = null;
    for (const frames of LENGTHS) {
      const { left, samples } = attempt(frames);
      if (left > most) continue;
      if (left <= Math.max(TAIL * limit, TAIL * LEFT * burst.peak)) return samples;
      found ??= samples;
    }
    return found;
  }

  /** Above what is usual around it; other sudden places are for the judge to compare. */
  private standsOut(unforeseen: Float64Array, { start, end, peak }: Burst, limit: number): boolean {
    const before = largest(unforeseen, Math.max(ORDER, start - this.around), start);
    const behind = largest(unforeseen, end + ORDER, end + ORDER + this.around);
    return Math.min(Math.max(before, behind), limit) * STANDS_OUT < peak;
  }
}

/** Runs of what is unforeseen. One sample disturbs the prediction of `ORDER` more. */
function burstsOf(unforeseen: Float64Array, limit: number): Burst[] {
  const found: Burst[] = [];
  for (let i = ORDER; i < unforeseen.length; i++) {
    if (Math.abs(unforeseen[i]!) <= limit) continue;
    let end = i + 1;
    for (let j = end; j < unforeseen.length && j - end < ORDER / 2; j++) {
      if (Math.abs(unforeseen[j]!) > limit) end = j + 1;
    }
    found.push(trimmed(unforeseen, i, end));
    i = end + ORDER / 2;
  }
  return found;
}

/** A run without what is small beside its peak: that is something else. */
function trimmed(unforeseen: Float64Array, from: number, to: number): Burst {
  const peak = largest(unforeseen, from, to);
  let [start, end] = [from, to];
  while (Math.abs(unforeseen[start]!) < LEFT * peak) start++;
  while (Math.abs(unforeseen[end - 1]!) < LEFT * peak) end--;
  return { start, end, peak };
}

/**
 * Whether what is there differs from what belongs there as a click does: by more than what belongs there moves,
 * which an edge does not, and at once, so that it was as far from what was foreseen; a wave swings away softly.
 */
function sticksOut(
  signal: Float64Array,
  a: Float64Array,
  start: number,
  samples: Float32Array,
  unforeseen: number,
): boolean {
  let [low, high, most] = [Infinity, -Infinity, 0];
  for (let i = -1; i <= samples.length; i++) {
    const own = samples[i];
    const belongs = own ?? signal[start + i]!;
    low = Math.min(low, belongs);
    high = Math.max(high, belongs);
    if (own !== undefined) most = Math.max(most, Math.abs(signal[start + i]! - own));
  }
  const isLong = samples.length >= SHORTEST_STEP;
  const step = Math.max(
    disagreement(signal, a, start, samples.length),
    Math.abs(signal[start + samples.length]! - signal[start - 1]!) / 1.5,
  );
  const isStep = isLong && most < STEPS_OUT * step;
  const isAtOnce = unforeseen >= AT_ONCE * most;
  return most >= LEAST && most >= STICKS_OUT * (high - low) && isAtOnce && !isStep;
}

/** The samples from `from` up to `to`, never louder than what is around them. */
function withinPeak(work: Float64Array, from: number, to: number): Float32Array {
  const peak = Math.max(largest(work, 0, from), largest(work, to, work.length));
  return Float32Array.from(work.subarray(from, to), (x) => Math.max(-peak, Math.min(peak, x)));
}

/** How far apart two forecasts of the middle of a gap lie, one from each side: over a click they agree. */
function disagreement(
  signal: Float64Array,
  a: Float64Array,
  start: number,
  frames: number,
): number {
  const half = frames >> 1;
  const before = signal.slice(start - ORDER, start);
  const behind = signal.slice(start + frames, start + frames + ORDER).reverse();
  return Math.abs(forecast(before, a, half + 1) - forecast(behind, a, frames - half));
}

/** The sample that lies `frames` frames behind `past`, by linear prediction. */
function forecast(past: Float64Array, a: Float64Array, frames: number): number {
  const line = [...past];
  for (let i = 0; i < frames; i++) {
    line.push(a.reduce((sum, weight, k) => sum + weight * line[line.length - 1 - k]!, 0));
  }
  return line.at(-1)!;
}

/** Frames on both sides whose levels are compared, and how many times one must be louder. */
const EDGE_FRAMES = 128;
const EDGE_RATIO = 8;
/** A click that is so many times louder than both sides is no beginning of either. */
const DWARFS = 6;

/** Whether sound begins in silence or ends in it here: a click has sound on both sides, or none on both. */
function isEdge(signal: Float64Array, { start, end, peak }: Burst): boolean {
  const before = rms(signal.subarray(Math.max(0, start - EDGE_FRAMES), start));
  const after = rms(signal.subarray(end, end + EDGE_FRAMES));
  const [quieter, louder] = [Math.min(before, after), Math.max(before, after)];
  const isOneSided = louder > LEAST && quieter < LEAST && louder > EDGE_RATIO * quieter;
  return isOneSided && peak < DWARFS * louder;
}

function rms(part: Float64Array): number {
  return Math.sqrt(part.reduce((sum, x) => sum + x * x, 0) / Math.max(1, part.length));
}

function largest(values: Float64Array, from: number, to: number): number {
  const end = Math.min(to, values.length);
  let [low, high] = [0, 0];
  for (let i = from; i < end; i++) {
    const value = values[i]!;
    if (value > high) high = value;
    else if (value < low) low = value;
  }
  return Math.max(high, -low);
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
