import { rm } from 'node:fs/promises';
import { pieces } from '@/core/bytes/source';
import { compare, convert, rawDescription, type Converted } from '@/core/convert';
import { BijouError } from '@/core/errors';
import type { Recipe } from '@/core/recipe/types';
import { heldBelow } from '@/core/held';
import { cureSteps, missedLevels } from '@/core/oneOff/missed';
import { fileScratch, withFile, writeTemporary } from '../files/bytes';
import { sha256OfFile } from '../files/store';
import { knownFigures } from './knownFigures';
import { readFile } from './readFile';
import { workClock } from './threadClock';
import type { EncodeResult, EncodeTask } from './tasks';

/** Share of the progress that is encoding; the rest is decoding again. */
const ENCODING = 0.8;

/**
 * Makes one file, decodes it again from its bytes and measures it. What it is for is not asked.
 * What decoding brings above its ceiling is encoded again, quieter.
 * @throws damaged-sound when it does not hold what it must.
 */
export async function encodeFile(
  task: EncodeTask,
  progress: (share: number) => void,
): Promise<EncodeResult> {
  const once = async (recipe: Recipe) => {
    // What was too loud is made anew from its beginning.
    await rm(task.output, { force: true });
    return encodedOnce({ ...task, recipe }, progress);
  };
  const made = await heldBelow(task, once, peaksOf);
  const { verification, warnings } = made;
  const missed = missedLevels({ ...task, ...verification, warnings }, cureSteps);
  return { ...made, warnings: [...warnings, ...missed] };
}

const peaksOf = ({ verification: { facts, loudestDbfs = null } }: EncodeResult) => ({
  ...facts,
  loudestDbfs,
});

async function encodedOnce(
  task: EncodeTask,
  progress: (share: number) => void,
): Promise<EncodeResult> {
  const { expected, warnings, ...made } = task.isCopy
    ? await copy(task)
    : await encode(task, progress);
  const { writer, settings, output } = task;
  const raw = rawDescription(writer, settings, expected) ?? null;
  const read = await readFile({ source: output, raw, peaks: null, loop: made.loop }, (done) =>
    progress(ENCODING + ((1 - ENCODING) * done) / expected.frames),
  );
  const verification = compare(read, expected);
  if (verification.problems.length > 0) {
    throw new BijouError(
      'damaged-sound',
      `The finished file was decoded again and is not as it must be: ${verification.problems.join(' ')}`,
      'It was not kept. Try another setting, and report this with the sound.',
    );
  }
  return {
    sha256: await sha256OfFile(task.output),
    verification: { ...verification, ...made },
    warnings,
    raw,
  };
}

async function encode(task: EncodeTask, progress: (share: number) => void): Promise<Converted> {
  const { recipe, writer, settings, tags } = task;
  const { frames } = task.sourceShape;
  return withFile(task.source, (source) =>
    writeTemporary(task.output, (sink) =>
      convert(source, { recipe, writer, settings, tags }, sink, {
        frames,
        raw: task.raw ?? undefined,
        clock: workClock.now,
        figure: knownFigures(task.source, task.raw),
        scratch: () => fileScratch(`${task.output}.scratch`),
        progress: (read) => progress((ENCODING * read) / frames),
      }),
    ),
  );
}

async function copy(
  task: EncodeTask,
): Promise<Omit<Converted, 'loudestDbfs' | 'loop'> & { loop?: undefined }> {
  await withFile(task.source, (source) =>
    writeTemporary(task.output, async (sink) => {
      for await (const piece of pieces(source)) await sink.write(piece);
    }),
  );
  return { expected: task.sourceShape, warnings: [], encodeMs: null };
}
