import { shapeOf } from '@/core/recipe/types';
import type { Sound } from '@/wire';
import type { Version } from '../listening';
import { builtVersions } from './built';
import { partVersion, shapedVersion } from './shaped';
import { sourceVersion } from './source';
import type { Heard, VersionProvider } from './types';

/** Every kind of forms in which a sound can be heard, in the order of the strip; the source comes first. */
const providers: readonly VersionProvider[] = [
  sourceVersion,
  shapedVersion,
  partVersion,
  builtVersions,
];

/** What is known of a sound beside itself; its stored recipe is taken where none is given. */
export type HeardWith = Pick<Heard, 'lines' | 'briefs'> &
  Partial<Pick<Heard, 'recipe' | 'loudness' | 'part'>>;

/** Every form in which a sound can be heard. */
export function versionsOf(sound: Sound, known: HeardWith): Version[] {
  if (!sound.facts) return [];
  const source = shapeOf(sound.facts);
  const heard = { recipe: sound.recipe, loudness: null, part: null, ...known, sound, source };
  return providers.flatMap((provider) => provider(heard));
}
