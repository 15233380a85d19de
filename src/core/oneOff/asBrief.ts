import type { BriefText } from '../brief/schema';
import { BijouError } from '../errors';
import { holdsRate, isSpan, usualRates } from '../formats/rates';
import { filledSettings, writerById } from '../formats/write';
import { isPartOf } from '../isPartOf';
import type { OneOff, OneOffWish, WishedChannels } from './plan';

const CHANNELS: Record<WishedChannels, readonly number[]> = {
  mix: [1],
  left: [1],
  right: [1],
  stereo: [2],
};

/**
 * A brief that accepts what a wish makes of these sounds: what was asked for is demanded, and what stays as the
 * source has it may be anything that the format holds.
 */
export function briefOfWish(
  id: string,
  title: string,
  wish: OneOffWish,
  made: readonly Pick<OneOff, 'plan' | 'shape'>[],
): BriefText {
  const kind = writerById(wish.writer);
  // The deepest of them holds all others.
  const settings = deepest(made.map(({ plan }) => plan.settings)) ?? wish.settings;
  const filled = filledSettings(kind, settings);
  const { rates } = kind.legal;
  const channels = wish.channels
    ? CHANNELS[wish.channels]
    : [...kind.legal.channels].sort((a, b) => Number(b === 2) - Number(a === 2) || a - b);
  const own = made.map(({ shape }) => shape.rateHz);
  const all = isSpan(rates) ? [...own, ...usualRates] : rates;
  const legal = [...new Set(wish.rateHz === undefined ? [48_000, ...all] : [wish.rateHz])].filter(
    (hz) => holdsRate(rates, hz) && channels.every((count) => !kind.refuses?.(filled, hz, count)),
  );
  if (legal.length === 0) {
    throw new BijouError(
      'not-legal',
      'There is no rate at which all of that is legal.',
      'Choose a bit rate that more rates have, or a rate.',
    );
  }
  const bits = kind.legal.depths?.find((depth) => isPartOf(depth.settings, filled))?.bits;
  const stored = Object.fromEntries(
    Object.entries(filled).filter(([, value]) => value !== undefined),
  );
  return {
    id,
    version: 1,
    title,
    purpose: `Kept from a conversion: ${kind.name}, ${kind.describe(filled)}.`,
    files: [
      {
        id: 'file',
        writer: kind.id,
        settings: stored,
        sampleRatesHz: legal,
        channels: [...channels],
        ...(bits !== undefined && { bitDepths: [bits] }),
      },
    ],
    notes: [],
  };
}

function deepest(all: readonly object[]): object | undefined {
  const bitsOf = (settings: object) => Number((settings as { bits?: unknown }).bits ?? 0);
  return [...all].sort((a, b) => bitsOf(b) - bitsOf(a))[0];
}
