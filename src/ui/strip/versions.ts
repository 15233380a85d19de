import { storedBrief } from '@/core/brief';
import { recipeKey, shapeAfter } from '@/core/recipe/recipe';
import { traceRecipe } from '@/core/recipe/trace';
import { shapeOf, type Recipe, type Shape } from '@/core/recipe/types';
import type { PackLine, Sound } from '@/wire';
import type { Version } from './listening';

/** What is known only where a sound is shaped. */
export interface Shaping {
  /** As it is on the screen, stored or not yet. */
  recipe: Recipe;
  /** LUFS, or RMS where it has none, of the shaped sound; null while it is not measured. */
  loudness: number | null;
  /** A part of the recipe that is to be heard alone. */
  part?: { label: string; recipe: Recipe } | null;
}

/** Every form in which a sound can be heard: as it came, as it is shaped, and each finished file. */
export function versionsOf(
  sound: Sound,
  lines: readonly PackLine[],
  shaping: Shaping = { recipe: sound.recipe, loudness: null },
): Version[] {
  if (!sound.facts) return [];
  const { lufs, rmsDbfs } = sound.facts;
  const source = shapeOf(sound.facts);
  const versions: Version[] = [
    {
      key: `source-${sound.id}`,
      // The source is named, so that nothing is taken for what it was before it was replaced.
      content: sound.sourceSha256,
      label: 'Source',
      ...listened(source),
      loudness: lufs ?? rmsDbfs,
      url: `/api/sounds/${sound.id}/pcm?of=${sound.sourceSha256}`,
      toSource: (frame) => frame,
      fromSource: (frame) => frame,
    },
  ];
  const { recipe, part } = shaping;
  const shaped = behind(sound, source, recipe, `shaped-${sound.id}`, 'Shaped');
  if (shaped) versions.push({ ...shaped, loudness: shaping.loudness });
  const partial = part && behind(sound, source, part.recipe, `part-${sound.id}`, part.label);
  if (partial) versions.push(partial);
  for (const { assignment, outputs } of lines) {
    if (assignment.soundId !== sound.id) continue;
    const { title } = storedBrief(assignment.briefId);
    for (const output of outputs) {
      const facts = output.verification?.facts;
      if (!facts || !output.upToDate) continue;
      const scale = shaped ? facts.frames / shaped.frames : facts.frames / source.frames;
      versions.push({
        key: `output-${output.id}`,
        content: String(output.sha256),
        label: `${title} · ${output.name.split('.').at(-1)?.toUpperCase()}`,
        rateHz: facts.sampleRateHz,
        channels: facts.channels,
        frames: facts.frames,
        loudness: facts.lufs ?? facts.rmsDbfs,
        url: `/api/outputs/${output.id}/pcm`,
        toSource: (frame) => (shaped?.toSource ?? Number)(frame / scale),
        fromSource: (frame) => (shaped?.fromSource ?? Number)(frame) * scale,
      });
    }
  }
  return versions;
}

/** A sound behind a recipe; null where that changes nothing or cannot be done. */
function behind(
  sound: Sound,
  source: Shape,
  recipe: Recipe,
  key: string,
  label: string,
): Version | null {
  if (!recipe.steps.some((step) => step.on)) return null;
  let shape: Shape;
  try {
    shape = shapeAfter(recipe, source);
  } catch {
    return null;
  }
  const trace = traceRecipe(recipe, source);
  return {
    key,
    content: `${sound.sourceSha256} ${recipeKey(recipe)}`,
    label,
    ...listened(shape),
    loudness: null,
    url: `/api/sounds/${sound.id}/shaped/pcm`,
    recipe,
    toSource: trace.back,
    fromSource: (frame) => trace.forward(frame) ?? nearest(trace.forward, frame, source.frames),
  };
}

function listened({ rateHz, channelCount: channels, frames }: Shape) {
  return { rateHz, channels, frames };
}

/** Where a frame that was cut away would have been: what is left of it that lies next. */
function nearest(forward: (frame: number) => number | null, frame: number, frames: number): number {
  const step = Math.max(1, frames / 1_000);
  for (let away = step; away <= frames; away += step) {
    for (const side of [frame + away, frame - away]) {
      const at = side >= 0 && side <= frames ? forward(side) : null;
      if (at !== null) return at;
    }
  }
  return 0;
}
