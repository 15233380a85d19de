import type { ObjectSchema } from 'yup';
import { BijouError } from '@/core/errors';
import type { PcmSource } from '@/core/pcm/source';
import type { Recipe } from '@/core/recipe/types';
import { count } from '@/core/tradeNames';
import type { Asker, Urgency } from '../interest';
import type { ListenedSound } from '../listenedSound';

/** What an answer is worked out with, beside the sound itself. */
interface AnswerTools {
  sound: ListenedSound;
  asker: Asker;
}

/** One thing that can be asked about a sound behind a recipe. Spans are in frames of that. */
export interface Question<Told extends object, Result> {
  /** What has to be told with it; checked as it comes from outside. */
  told: ObjectSchema<Told>;
  /** Refuses what the schema cannot. @throws bad-span, bad-setting */
  check?(told: Told, recipe: Recipe | null): void;
  /** How many frames from the start it reads of a sound that no step changes; any, unless it says so. */
  reach?(told: Told): number;
  urgency(told: Told): Urgency;
  answer(source: PcmSource, told: Told, tools: AnswerTools): Promise<Result>;
}

/** Ties what is told and what is answered together. */
export function question<Told extends object, Result>(
  one: Question<Told, Result>,
): Question<Told, Result> {
  return one;
}

/** Most columns of a picture. */
export const MOST_COLUMNS = 8_192;
/** Most stretches or clicks that one answer holds. */
const MOST_FOUND = 50_000;

/** @throws bad-span */
export function checkSpan(
  startFrame: number,
  frames: number,
  most = Number.MAX_SAFE_INTEGER,
): void {
  const whole = Number.isInteger(startFrame) && Number.isInteger(frames);
  if (whole && startFrame >= 0 && frames >= 1 && frames <= most) return;
  throw badRange();
}

/** @throws bad-span */
export function checkCount(count: number, most: number): void {
  if (!Number.isInteger(count) || count < 1 || count > most) throw badRange();
}

function badRange(): BijouError {
  return new BijouError(
    'bad-span',
    'That range cannot be read.',
    'Ask for a range inside the sound.',
  );
}

/** @throws too-large */
export function checkFound(found: readonly unknown[], what: string): void {
  if (found.length > MOST_FOUND) throw tooMany(what, found.length);
}

export function tooMany(what: string, found: number): BijouError {
  return new BijouError(
    'too-large',
    `There are ${count(found)} ${what}: more than one answer can hold.`,
    'Ask about a part of the sound, or with another threshold.',
  );
}
