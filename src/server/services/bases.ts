import { createHash } from 'node:crypto';
import type { Brief } from '@/core/brief/schema';
import { writers } from '@/core/formats';
import { PROCESSING_VERSION } from '@/core/recipe/version';
import { BIJOU_VERSION } from '@/core/version';
import type { Assignment, Sound } from '@/wire';

function hashOf(value: unknown): string {
  return createHash('sha256').update(JSON.stringify(value)).digest('base64url').slice(0, 22);
}

/** Kept for as long as the object is: what is read of the data folder is another object as soon as it is other. */
function onceFor<T extends object>(work: (of: T) => string): (of: T) => string {
  const known = new WeakMap<T, string>();
  return (of) => {
    const found = known.get(of) ?? work(of);
    known.set(of, found);
    return found;
  };
}

/** Counted up whenever rows of the same sounds, briefs and choices hold something else than before. */
const ROWS_VERSION = 1;

/** Another Bijou may work out something else. */
const WORKED_OUT_BY = hashOf([
  ROWS_VERSION,
  BIJOU_VERSION,
  PROCESSING_VERSION,
  writers.map(({ id, version }) => [id, version]),
]);

/**
 * Everything of a sound that decides how files are made of it, in short. As long as a basis is the same, so is what was
 * worked out from it, and nobody has to look again.
 */
export const soundBasis = onceFor(
  ({
    sourceSha256,
    facts,
    recipe,
    outcome,
  }: Pick<Sound, 'sourceSha256' | 'facts' | 'recipe' | 'outcome'>) =>
    hashOf([WORKED_OUT_BY, sourceSha256, facts, recipe.steps, outcome]),
);

const briefBasis = onceFor((brief: Brief) => hashOf(brief));

/** Everything of a sound, a brief and what was chosen that decides what is needed. */
export function cellBasis(sound: Sound, brief: Brief, { choices }: Assignment): string {
  const { state, error, name, fileName, group, language } = sound;
  const told = [state, error, name, fileName, group, language];
  return hashOf([soundBasis(sound), told, briefBasis(brief), choices]);
}

/** What decides what is written down of the same cells. */
export const rowsBasis = (catalogue: readonly Brief[]): string =>
  hashOf([WORKED_OUT_BY, catalogue]);
