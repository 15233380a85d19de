import { mixdownLossOf } from '@/core/compare/mixdown';
import { measureTrial, type TrialFigures } from '@/core/compare/trial';
import {
  decodingCosts,
  measuredFile,
  type MeasuredFile,
  type WorkFigures,
} from '@/core/compare/work';
import { BijouError } from '@/core/errors';
import { openSound, sourceOf } from '@/core/formats/open';
import { applyRecipe } from '@/core/recipe/recipe';
import { plainTools } from '@/core/recipe/types';
import { openFile, withFile } from '../files/bytes';
import { knownFigures } from './knownFigures';
import type { DecodingTask, TrialTask } from './tasks';
import { workClock } from './threadClock';

/** Holds a finished file against the sound that it was made of. */
export function tryFile(
  { source, raw, sourceShape, reference, loop, file, fileRaw, truePeakDbtp }: TrialTask,
  progress: (share: number) => void,
): Promise<TrialFigures> {
  return withFile(source, async (bytes) => {
    const reader = await openSound(bytes, raw ?? undefined);
    const tools = { ...plainTools, figure: knownFigures(source, raw) };
    const whole = sourceOf(reader, sourceShape.frames);
    const shaped = await applyRecipe(reference, whole, tools);
    const mixdownLossDb = await mixdownLossOf(whole, reference, tools);
    return withFile(file, (made) =>
      measureTrial(made, shaped, {
        raw: fileRaw ?? undefined,
        loop,
        truePeakDbtp,
        mixdownLossDb,
        progress: (frames) => progress(frames / shaped.frames),
      }),
    );
  });
}

/** What decoding some files costs. Nothing else should be at work: while something is, it waits between two files. */
export async function measureDecoding(
  { files, runs }: DecodingTask,
  progress: (share: number) => void,
  pause?: Int32Array,
): Promise<WorkFigures[]> {
  const opened = await Promise.all(files.map(({ path }) => openFile(path)));
  try {
    const measured: MeasuredFile[] = [];
    for (const [i, { raw, ...how }] of files.entries()) {
      measured.push(await measuredFile(opened[i]!.source, raw ?? undefined, how));
    }
    return await decodingCosts(measured, {
      runs,
      clock: workClock.now,
      isOwnClock: workClock.isOwn,
      between: async () => void (pause && Atomics.wait(pause, 0, 1)),
      round: progress,
    });
  } finally {
    await Promise.all(opened.map(({ close }) => close()));
  }
}

export function noFile(): BijouError {
  return new BijouError(
    'not-found',
    'The file that was made for it is not there any more.',
    'Compare again.',
  );
}
