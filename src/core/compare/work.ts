import FFT from 'fft.js';
import { MemorySink, memorySource, remembered, type ByteSource } from '../bytes/source';
import { openSound } from '../formats/open';
import type { RawDescription } from '../formats/raw/reader';
import { mean, quantile } from '../measure/statistics';
import { writeSound } from '../formats/write';
import { blockFrames, collectChannels, pcmFromChannels } from '../pcm/pcm';
import { emptyChannels } from '../pcm/source';
import { spreadOf, type Spread } from './spread';

/** What decoding a file costs on the machine that measured it. */
export interface WorkFigures {
  /** Milliseconds per second of sound, without opening the file. */
  msPerSecond: Spread;
  /** Milliseconds from bytes in memory to the first frames, opening the file included; the median. */
  firstBlockMs: number;
  runs: number;
  /** Whether the processor time of the thread was counted, and not what passed meanwhile. */
  isOwnClock: boolean;
}

/** Milliseconds of the clock that work is measured with. */
type Clock = () => number;

/** Of a longer sound so much is decoded: its cost per second does not depend on its length. */
const MOST_SECONDS = 8;
/** A short sound is decoded again and again in a run, until the clock can tell. */
const LEAST_RUN_MS = 20;
const LEAST_OPENING_MS = 12;
const MOST_TIMES = 10_000;

/** What decoding a file takes, on average over the times that it was decoded in a run. */
interface DecodingRun {
  ms: number;
  /** How much sound that was. */
  seconds: number;
  /** Until its first frames, opening included. */
  firstMs: number;
}

/** One run over a file that lies in memory. */
async function decodingRun(
  file: ByteSource,
  raw: RawDescription | undefined,
  clock: Clock,
  leastMs: number,
): Promise<DecodingRun> {
  const start = clock();
  let [seconds, firstMs, times] = [0, 0, 0];
  do {
    const begun = clock();
    const reader = await openSound(file, raw);
    const rateHz = reader.header.sampleRateHz;
    let frames = 0;
    for await (const block of reader.pcm().blocks) {
      if (frames === 0) firstMs += clock() - begun;
      frames += blockFrames(block);
      if (frames >= MOST_SECONDS * rateHz) break;
    }
    seconds += frames / rateHz;
    times++;
  } while (clock() - start < leastMs && times < MOST_TIMES);
  const ms = (clock() - start) / times;
  return { ms, seconds: seconds / times, firstMs: firstMs / times };
}

/** How often each file is decoded while the machine is steady. */
export const USUAL_RUNS = 7;

/** Rounds to get warm, which are not counted. */
const WARM_UPS = 1;
/** While the machine's pace changes there are more rounds, up to so many times what was asked for. */
const MOST_ROUNDS = 1.5;
/** A run is steady when the pace beside it was no slower than so many times that of quick moments. */
const STEADY_PACE = 1.1;

/** A file whose decoding is measured. */
export interface MeasuredFile {
  file: ByteSource;
  /** The same sound over and over, encoded in the same way; null for one that is long enough by itself. */
  longer: ByteSource | null;
  /** One frame, encoded in the same way: what decoding it takes is opening, and is left out of the cost. */
  opening: ByteSource;
  raw: RawDescription | undefined;
}

/** A shorter sound takes longer to be opened than to be decoded. */
const LONG_ENOUGH_SECONDS = 5;

/** What has to be there to measure what decoding a file costs. */
export async function measuredFile(
  file: ByteSource,
  raw: RawDescription | undefined,
  { writer, settings }: { writer: string; settings: object },
): Promise<MeasuredFile> {
  const { header, pcm } = await openSound(file, raw);
  const { sampleRateHz: rateHz, channels: channelCount } = header;
  const encoded = async (channels: readonly Float32Array[]) => {
    const sink = new MemorySink();
    await writeSound(pcmFromChannels(channels, rateHz), writer, settings, sink);
    return memorySource(sink.bytes());
  };
  const opening = await encoded(emptyChannels(channelCount, 1));
  const enough = LONG_ENOUGH_SECONDS * rateHz;
  if ((header.frames ?? Infinity) >= enough) return { file, longer: null, opening, raw };
  const once = await collectChannels(pcm());
  const frames = once[0]?.length ?? 0;
  const times = Math.ceil(enough / Math.max(1, frames));
  const longer = once.map((channel) => {
    const many = new Float32Array(frames * times);
    for (let n = 0; n < times; n++) many.set(channel, n * frames);
    return many;
  });
  return { file, longer: frames > 0 ? await encoded(longer) : null, opening, raw };
}

export interface WorkOptions {
  runs: number;
  clock: Clock;
  /** Whether the clock counts what this thread alone worked. */
  isOwnClock: boolean;
  /** Is waited for between two files, so that others have their turn; what it throws ends the measuring. */
  between?: (() => Promise<void>) | undefined;
  /** Is told after every round what share of all is done, and is waited for. */
  round?: ((share: number) => Promise<void> | void) | undefined;
}

/** What is left of a run without opening is no less than this share of it: neither figure is exact. */
const LEAST_REST = 0.02;

/** What one run over a file came to, and what a fixed piece of arithmetic took just before and behind it. */
interface PacedRun {
  whole: DecodingRun;
  /** Until the first frames of the file itself. */
  firstMs: number;
  /** Of the file that is opening alone. */
  openingMs: number;
  paceMs: number;
  slowestPaceMs: number;
}

/**
 * What decoding each of several files costs: they are decoded in turn, round by round, so that whatever else the machine
 * does falls on all of them. Nothing else should go on in the meantime. Beside every run a fixed piece of arithmetic
 * is timed, and costs are stated for the pace at which that is quick, whatever shared the processor; where too few runs
 * were steady, there are more rounds.
 */
export async function decodingCosts(
  files: readonly MeasuredFile[],
  { runs, clock, isOwnClock, between, round }: WorkOptions,
): Promise<WorkFigures[]> {
  const kept = files.map(({ file, ...other }) => ({ ...other, file: remembered(file) }));
  const found: PacedRun[][] = kept.map(() => []);
  const quickMs = () =>
    quantile(
      found.flatMap((own) => own.map((one) => one.paceMs)),
      QUICK,
    );
  const steady = (own: readonly PacedRun[], quick: number) =>
    own.filter(({ slowestPaceMs }) => slowestPaceMs <= STEADY_PACE * quick).length;
  const most = WARM_UPS + Math.ceil(MOST_ROUNDS * runs);
  for (let done = 0; done < most; done++) {
    const before = { paceMs: paceMs(clock) };
    for (const [i, file] of kept.entries()) {
      const one = await pacedRun(file, clock, before);
      if (done >= WARM_UPS) found[i]!.push(one);
      await between?.();
    }
    const quick = done < WARM_UPS ? 0 : quickMs();
    const least = Math.min(...found.map((own) => steady(own, quick)));
    await round?.(Math.max(least / runs, (done + 1) / most));
    if (least >= runs) break;
  }
  const quick = quickMs();
  return found.map((own) => ({ ...costOf(own, quick), runs: own.length, isOwnClock }));
}

/** Takes the pace that was behind the run before, and leaves its own there. */
async function pacedRun(
  { file, longer, opening, raw }: MeasuredFile,
  clock: Clock,
  last: { paceMs: number },
): Promise<PacedRun> {
  const whole = await decodingRun(longer ?? file, raw, clock, LEAST_RUN_MS);
  const { firstMs } = longer ? await decodingRun(file, raw, clock, LEAST_OPENING_MS) : whole;
  const { ms: openingMs } = await decodingRun(opening, raw, clock, LEAST_OPENING_MS);
  const [before, after] = [last.paceMs, paceMs(clock)];
  last.paceMs = after;
  return {
    ...{ whole, firstMs, openingMs },
    paceMs: (before + after) / 2,
    slowestPaceMs: Math.max(before, after),
  };
}

/** What runs would have come to at the pace of quick moments. */
function costOf(
  runs: readonly PacedRun[],
  quickMs: number,
): Pick<WorkFigures, 'msPerSecond' | 'firstBlockMs'> {
  const quickened = ({ paceMs }: PacedRun) => (quickMs / paceMs) ** SLOWED;
  // Every second one or so pays for the memory of those before: the mean knows, the median flips.
  const opening = mean(runs.map((run) => run.openingMs * quickened(run)));
  const first = runs.map((run) => run.firstMs * quickened(run));
  return {
    msPerSecond: spreadOf(runs.map((run) => perSecond(run.whole, opening, quickened(run)))),
    firstBlockMs: quantile(first, 0.5),
  };
}

/** Per second of sound, without opening. */
function perSecond({ ms, seconds }: DecodingRun, openingMs: number, quickened: number): number {
  const whole = ms * quickened;
  return Math.max(whole - openingMs, whole * LEAST_REST) / seconds;
}

/** The share of all moments that are quicker than what counts as quick. */
const QUICK = 0.03;
/** A neighbour on the core slows decoders down by this power of what it does to the arithmetic (measured). */
const SLOWED = 0.8;
const PACE_SIZE = 1_024;
const PACE_TIMES = 60;
let pacing: { fft: FFT; input: Float64Array; output: Float64Array } | null = null;

/** How long a fixed piece of arithmetic takes now: transforms, as decoders make them. */
function paceMs(clock: Clock): number {
  pacing ??= {
    fft: new FFT(PACE_SIZE),
    input: new Float64Array(2 * PACE_SIZE).map((_, i) => Math.sin(i)),
    output: new Float64Array(2 * PACE_SIZE),
  };
  const { fft, input, output } = pacing;
  const begun = clock();
  for (let i = 0; i < PACE_TIMES; i++) {
    fft.transform(output as unknown as number[], input as unknown as number[]);
  }
  return clock() - begun;
}
