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
const LEAST_RUN_MS = 30;
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

/** How often each file is decoded to measure what that costs. */
export const USUAL_RUNS = 11;

/** Rounds to get warm, which are not counted. */
const WARM_UPS = 2;

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
const LONG_ENOUGH_SECONDS = 8;

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
  /** Is told after every round how many of all are done, and is waited for. */
  round?: ((done: number, rounds: number) => Promise<void> | void) | undefined;
}

/** What is left of a run without opening is no less than this share of it: neither figure is exact. */
const LEAST_REST = 0.02;

/**
 * What decoding each of several files costs: they are decoded in turn, round by round, so that whatever else the machine
 * does falls on all of them. Nothing else should go on in the meantime. Beside every run a fixed piece of arithmetic
 * is timed: costs are stated for the pace at which that went when it was quick, whatever shared the processor.
 */
export async function decodingCosts(
  files: readonly MeasuredFile[],
  { runs, clock, isOwnClock, round }: WorkOptions,
): Promise<WorkFigures[]> {
  const kept = files.map(({ file, ...other }) => ({ ...other, file: remembered(file) }));
  // All at the pace of their moment.
  const found = kept.map(() => ({ wholes: [] as DecodingRun[], openings: [] as number[] }));
  const paces: number[] = [];
  for (let done = 0; done < WARM_UPS + runs; done++) {
    let before = paceMs(clock);
    for (const [i, { file, longer, opening, raw }] of kept.entries()) {
      const whole = await decodingRun(longer ?? file, raw, clock, LEAST_RUN_MS);
      const { firstMs } = longer ? await decodingRun(file, raw, clock, LEAST_OPENING_MS) : whole;
      const open = await decodingRun(opening, raw, clock, LEAST_OPENING_MS);
      const after = paceMs(clock);
      const pace = (before + after) / 2;
      before = after;
      if (done < WARM_UPS) continue;
      paces.push(pace);
      found[i]!.wholes.push({
        ...whole,
        ms: whole.ms / pace,
        firstMs: firstMs / pace,
      });
      found[i]!.openings.push(open.ms / pace);
    }
    await round?.(done + 1, WARM_UPS + runs);
  }
  const quick = quantile(paces, QUICK);
  return found.map(({ wholes, openings }) => {
    // Every second one or so pays for the memory of those before: the mean knows, the median flips.
    const opening = mean(openings);
    return {
      msPerSecond: spreadOf(wholes.map((whole) => costOf(whole, opening) * quick)),
      firstBlockMs:
        quantile(
          wholes.map((whole) => whole.firstMs),
          0.5,
        ) * quick,
      ...{ runs, isOwnClock },
    };
  });
}

/** Per second of sound, without opening. */
function costOf({ ms, seconds }: DecodingRun, openingMs: number): number {
  return Math.max(ms - openingMs, ms * LEAST_REST) / seconds;
}

/** The share of all moments that are quicker than what counts as quick. */
const QUICK = 0.1;
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
