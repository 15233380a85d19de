import { MemorySink, remembered, type ByteSource } from '../bytes/source';
import { openSound } from '../formats/open';
import type { RawDescription } from '../formats/raw/reader';
import { quantile } from '../measure/statistics';
import { writeSound } from '../formats/write';
import { blockFrames, pcmFromChannels } from '../pcm/pcm';
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
export type Clock = () => number;

/** Of a longer sound so much is decoded: its cost per second does not depend on its length. */
const MOST_SECONDS = 4;
/** A short sound is decoded again and again in a run, until the clock can tell. */
const LEAST_RUN_MS = 15;
const LEAST_OPENING_MS = 5;
const MOST_TIMES = 10_000;

/** One run over a file that lies in memory: what decoding it once takes, and how much sound that was. */
async function decodingRun(
  file: ByteSource,
  raw: RawDescription | undefined,
  clock: Clock,
  leastMs: number,
): Promise<{ ms: number; seconds: number; firstBlockMs: number }> {
  const start = clock();
  let [seconds, firstBlocks, times] = [0, 0, 0];
  do {
    const begun = clock();
    const reader = await openSound(file, raw);
    const rateHz = reader.header.sampleRateHz;
    let frames = 0;
    for await (const block of reader.pcm().blocks) {
      if (frames === 0) firstBlocks += clock() - begun;
      frames += blockFrames(block);
      if (frames >= MOST_SECONDS * rateHz) break;
    }
    seconds += frames / rateHz;
    times++;
  } while (clock() - start < leastMs && times < MOST_TIMES);
  const ms = (clock() - start) / times;
  return { ms, seconds: seconds / times, firstBlockMs: firstBlocks / times };
}

/** How often each file is decoded to measure what that costs. */
export const USUAL_RUNS = 15;

/** Rounds to get warm, which are not counted. */
const WARM_UPS = 2;

/** A file whose decoding is measured. */
export interface MeasuredFile {
  file: ByteSource;
  /** One frame, encoded in the same way: what decoding it takes is opening, and is left out of the cost. */
  opening: ByteSource;
  raw: RawDescription | undefined;
}

/** One frame of silence as a file. */
export async function oneFrame(
  writer: string,
  settings: object,
  { rateHz, channelCount }: { rateHz: number; channelCount: number },
): Promise<Uint8Array> {
  const sink = new MemorySink();
  await writeSound(pcmFromChannels(emptyChannels(channelCount, 1), rateHz), writer, settings, sink);
  return sink.bytes();
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
 * does falls on all of them. Nothing else should go on in the meantime.
 */
export async function decodingCosts(
  files: readonly MeasuredFile[],
  { runs, clock, isOwnClock, round }: WorkOptions,
): Promise<WorkFigures[]> {
  const found = files.map(({ file, opening, raw }) => ({
    ...{ file: remembered(file), opening, raw },
    wholes: [] as { ms: number; seconds: number }[],
    openings: [] as number[],
    firsts: [] as number[],
  }));
  for (let done = 0; done < WARM_UPS + runs; done++) {
    for (const { file, opening, raw, wholes, openings, firsts } of found) {
      const { firstBlockMs, ...whole } = await decodingRun(file, raw, clock, LEAST_RUN_MS);
      const { ms } = await decodingRun(opening, raw, clock, LEAST_OPENING_MS);
      if (done < WARM_UPS) continue;
      wholes.push(whole);
      openings.push(ms);
      firsts.push(firstBlockMs);
    }
    await round?.(done + 1, WARM_UPS + runs);
  }
  return found.map(({ wholes, openings, firsts }) => {
    const openingMs = quantile(openings, 0.5);
    const costs = wholes.map(
      ({ ms, seconds }) => Math.max(ms - openingMs, ms * LEAST_REST) / seconds,
    );
    return {
      msPerSecond: spreadOf(costs),
      firstBlockMs: quantile(firsts, 0.5),
      ...{ runs, isOwnClock },
    };
  });
}
