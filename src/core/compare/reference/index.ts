import { BijouError } from '../../errors';
import { isRate } from '../../pcm/rates';
import { pinkNoise } from './pinkNoise';
import { bursts, clicks, nearSilence } from './sudden';
import { sweep } from './sweep';
import { chord, pureTone, twoTones } from './tones';
import type { ReferenceKind } from './types';
import { voice } from './voice';

/** Signals of our own whose answer to a codec is known beforehand. */
export const references: readonly ReferenceKind[] = [
  pinkNoise,
  pureTone,
  twoTones,
  sweep,
  clicks,
  bursts,
  voice,
  chord,
  nearSilence,
];

export const usualReference = { seconds: 10, rateHz: 48_000 };
const MOST_SECONDS = 300;

/**
 * Makes a reference signal: planar samples at a rate.
 * @throws not-found for a name that is none, bad-setting for a length or rate that cannot be
 */
export function makeReference(
  id: string,
  { seconds = usualReference.seconds, rateHz = usualReference.rateHz } = {},
): Float32Array[] {
  const kind = references.find((one) => one.id === id);
  if (!kind) {
    throw new BijouError(
      'not-found',
      `There is no reference signal "${id}".`,
      `There are ${references.map((one) => one.id).join(', ')}.`,
    );
  }
  const frames = Math.round(seconds * rateHz);
  if (!isRate(rateHz)) {
    throw new BijouError(
      'bad-setting',
      `No sound has ${rateHz} Hz.`,
      'Give a rate in Hz, such as 48000.',
    );
  }
  if (!(frames >= 1 && seconds <= MOST_SECONDS)) {
    throw new BijouError(
      'bad-setting',
      `A reference signal cannot last ${seconds} s.`,
      `Give at least one frame, and at most ${MOST_SECONDS} s.`,
    );
  }
  return kind.make(frames, rateHz);
}
