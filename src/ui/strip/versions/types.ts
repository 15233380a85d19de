import type { BriefCatalogue } from '@/core/brief/catalogue';
import type { Recipe, Shape } from '@/core/recipe/types';
import type { PackLine, Sound } from '@/wire';
import type { Version } from '../listening';

/** Everything that the forms of a sound are made from. */
export interface Heard {
  sound: Sound;
  /** Shape of its source. */
  source: Shape;
  /** As it is on the screen, stored or not yet. */
  recipe: Recipe;
  /** LUFS, or RMS where it has none, of the shaped sound; null while it is not measured. */
  loudness: number | null;
  /** A part of the recipe that is to be heard alone. */
  part: { label: string; recipe: Recipe } | null;
  /** What it goes to, as far as that is known on the screen. */
  lines: readonly PackLine[];
  briefs: BriefCatalogue;
}

/** One kind of forms in which a sound can be heard. */
export type VersionProvider = (heard: Heard) => Version[];

/** What a player needs to know of a shape. */
export function listened({ rateHz, channelCount: channels, frames }: Shape) {
  return { rateHz, channels, frames };
}
