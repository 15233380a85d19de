import { openSound, sourceOf } from '@/core/formats/open';
import { LevelMeter } from '@/core/measure/level';
import { LoudnessMeter } from '@/core/measure/loudness';
import { PyramidBuilder } from '@/core/measure/pyramid';
import { TruePeakMeter } from '@/core/measure/truePeak';
import type { ByteSource } from '@/core/bytes/source';
import type { Block } from '@/core/pcm/pcm';
import type { PcmSource } from '@/core/pcm/source';
import { applyRecipe, recipeKey } from '@/core/recipe/recipe';
import { emptyRecipe, type StepTools } from '@/core/recipe/types';
import type { ShapedLevels } from '@/wire';
import type { ListenedSound } from './listenTasks';
import { Remembered } from './remembered';

/** Figures of steps that measure a whole sound, by sound and steps. */
const figures = new Remembered<unknown>({ most: 500 });
/** Pictures behind recipes. */
const pyramids = new Remembered<Uint8Array>({ most: 64 << 20, size: (bytes) => bytes.length });
const levels = new Remembered<ShapedLevels>({ most: 2_000 });

/** A stored sound behind its recipe. What its steps have to measure is measured once. */
export async function openShaped(file: ByteSource, sound: ListenedSound): Promise<PcmSource> {
  const reader = await openSound(file);
  const source = sourceOf(reader, sound.frames ?? reader.header.frames ?? 0);
  const figure: StepTools['figure'] = async (steps, measure) =>
    (await figures.get(`${sound.sha256} ${steps}`, measure)) as Awaited<ReturnType<typeof measure>>;
  return applyRecipe(sound.recipe ?? emptyRecipe, source, { note: () => undefined, figure });
}

// Somebody waits to hear something: measuring can wait that long.
let waiting = 0;

/** Does what somebody waits for, while measuring rests. It must not itself wait for a measuring. */
export async function urgently<T>(work: () => Promise<T>): Promise<T> {
  waiting++;
  try {
    return await work();
  } finally {
    waiting--;
  }
}

/** Reads a whole sound for its measures, a block at a time when nobody waits for anything. */
async function* patiently(source: PcmSource): AsyncGenerator<Block> {
  for await (const block of source.from(0)) {
    yield block;
    while (waiting > 0) await new Promise((resolve) => setImmediate(resolve));
  }
}

/** What the last step of an opened sound has measured. */
export async function lastFigure<Figure>(sound: ListenedSound): Promise<Figure> {
  const found = await figures.get(keyOf(sound), () => {
    throw new Error('its last step measures nothing');
  });
  return found as Figure;
}

function keyOf({ sha256, recipe }: ListenedSound): string {
  return `${sha256} ${recipe ? recipeKey(recipe) : ''}`;
}

/** Reads the whole sound once: its levels, and on the way the picture of it. */
export function levelsOf(
  source: PcmSource,
  sound: ListenedSound,
  isThorough: boolean,
): Promise<ShapedLevels> {
  return levels.get(`${keyOf(sound)} ${isThorough}`, async () => {
    const pyramid = new PyramidBuilder(source.channelCount);
    const level = new LevelMeter(source.channelCount);
    const truePeak = new TruePeakMeter(source.rateHz, source.channelCount);
    const loudness = new LoudnessMeter(source);
    const meters = isThorough ? [pyramid, level, truePeak, loudness] : [pyramid, level];
    for await (const block of patiently(source)) for (const meter of meters) meter.push(block);
    void pyramids.get(keyOf(sound), () => Promise.resolve(pyramid.finish()));
    const { rateHz, channelCount, frames } = source;
    const { peakDbfs, rmsDbfs, correlation } = level.result();
    return {
      rateHz,
      channelCount,
      frames,
      peakDbfs,
      rmsDbfs,
      correlation,
      truePeakDbtp: isThorough ? truePeak.result().truePeakDbtp : null,
      lufs: isThorough ? loudness.result().lufs : null,
    };
  });
}

/** The pyramid behind a recipe, from an earlier measuring or a pass of its own. */
export function pyramidOf(source: PcmSource, sound: ListenedSound): Promise<Uint8Array> {
  return pyramids.get(keyOf(sound), async () => {
    const pyramid = new PyramidBuilder(source.channelCount);
    for await (const block of patiently(source)) pyramid.push(block);
    return pyramid.finish();
  });
}
