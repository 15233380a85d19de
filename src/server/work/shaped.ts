import { openSound, sourceOf } from '@/core/formats/open';
import { LevelMeter } from '@/core/measure/level';
import { LoudnessMeter } from '@/core/measure/loudness';
import { PyramidBuilder } from '@/core/measure/pyramid';
import { TruePeakMeter } from '@/core/measure/truePeak';
import type { ByteSource } from '@/core/bytes/source';
import type { PcmSource } from '@/core/pcm/source';
import { applyRecipe, recipeKey } from '@/core/recipe/recipe';
import { emptyRecipe, type StepTools } from '@/core/recipe/types';
import type { ShapedLevels } from '@/wire';
import type { Asker, Interest } from './interest';
import type { ListenedSound } from './listenTasks';
import { Remembered } from './remembered';

/** Figures of steps that measure a whole sound, by sound and steps. */
const figures = new Remembered<unknown>({ most: 500 });
/** Pictures behind recipes. */
const pyramids = new Remembered<Uint8Array>({ most: 64 << 20, size: (bytes) => bytes.length });
const levels = new Remembered<ShapedLevels>({ most: 2_000 });

/**
 * A stored sound behind its recipe, to be read as fast as it goes. What its steps have to measure is measured
 * once, in the pauses that more urgent questions leave.
 */
export async function openShaped(
  file: ByteSource,
  sound: ListenedSound,
  asker: Asker,
): Promise<PcmSource> {
  const reader = await openSound(file);
  const source = sourceOf(reader, sound.frames ?? reader.header.frames ?? 0);
  const recipe = sound.recipe ?? emptyRecipe;
  let interest: Interest | null = null;
  const measured = resting(source, async () => interest?.rest());
  const figure: StepTools['figure'] = async (steps, measure) =>
    (await figures.get(`${sound.sha256} ${steps}`, asker, (found) => {
      interest = found;
      return measure();
    })) as Awaited<ReturnType<typeof measure>>;
  const tools = { note: () => undefined, figure };
  // The first time to measure; the second time everything is known.
  await applyRecipe(recipe, measured, tools);
  return applyRecipe(recipe, source, tools);
}

/** A source that asks before every block whether it may go on. */
function resting(source: PcmSource, rest: () => Promise<void>): PcmSource {
  return {
    ...source,
    async *from(startFrame) {
      for await (const block of source.from(startFrame)) {
        await rest();
        yield block;
      }
    },
  };
}

/** What the last step of an opened sound has measured. */
export function lastFigure(sound: ListenedSound, asker: Asker): Promise<unknown> {
  return figures.get(keyOf(sound), asker, () => {
    throw new Error('its last step measures nothing');
  });
}

function keyOf({ sha256, recipe }: ListenedSound): string {
  return `${sha256} ${recipe ? recipeKey(recipe) : ''}`;
}

/** Reads the whole sound once: its levels, and on the way the picture of it. */
export function levelsOf(
  source: PcmSource,
  sound: ListenedSound,
  isThorough: boolean,
  asker: Asker,
): Promise<ShapedLevels> {
  return levels.get(`${keyOf(sound)} ${isThorough}`, asker, async (interest) => {
    const pyramid = new PyramidBuilder(source.channelCount);
    const level = new LevelMeter(source.channelCount);
    const truePeak = new TruePeakMeter(source.rateHz, source.channelCount);
    const loudness = new LoudnessMeter(source);
    const meters = isThorough ? [pyramid, level, truePeak, loudness] : [pyramid, level];
    for await (const block of resting(source, () => interest.rest()).from(0)) {
      for (const meter of meters) meter.push(block);
    }
    pyramids.put(keyOf(sound), pyramid.finish());
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
export function pyramidOf(
  source: PcmSource,
  sound: ListenedSound,
  asker: Asker,
): Promise<Uint8Array> {
  return pyramids.get(keyOf(sound), asker, async (interest) => {
    const pyramid = new PyramidBuilder(source.channelCount);
    for await (const block of resting(source, () => interest.rest()).from(0)) pyramid.push(block);
    return pyramid.finish();
  });
}
