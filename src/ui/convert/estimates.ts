import { useEffect, useEffectEvent, useState } from 'react';
import type { Estimate } from '@/core/oneOff/estimate';
import type { OneOffWish } from '@/core/oneOff/plan';
import { recipeKey } from '@/core/recipe/recipe';
import type { OneOffOutlook, Sound } from '@/wire';
import { call } from '../shared/api';

/** What a file will come to, as far as that is known, in bytes. */
export interface Expected {
  least: number;
  most: number;
  isExact: boolean;
}

/** What was found out stays true for the same samples, steps and wishes. */
const known = new Map<string, Estimate>();

/** So many are worked out at a time, and none until somebody has stopped choosing. */
const AT_ONCE = 2;
const PAUSE_MS = 200;

function keyOf(sound: Sound, wish: OneOffWish): string {
  return JSON.stringify([sound.sourceSha256, recipeKey(sound.recipe), sound.facts?.tags, wish]);
}

/**
 * What each sound will come to: counted, or concluded from some seconds of it, which the server encodes one sound
 * after the other. Until then it lies between what its neighbours came to.
 */
export function useEstimates(
  sounds: readonly Sound[],
  outlooks: readonly OneOffOutlook[],
  wish: OneOffWish,
): ReadonlyMap<number, Expected> {
  const [, redraw] = useState(0);
  const keys = sounds.map((sound) => keyOf(sound, wish));
  const wanted = JSON.stringify(keys);
  const workOut = useEffectEvent((signal: AbortSignal) => {
    const waiting = sounds.map((sound, i) => ({ sound, key: keys[i]! }));
    const work = async () => {
      for (let next = waiting.shift(); next; next = waiting.shift()) {
        if (signal.aborted) return;
        const { sound, key } = next;
        if (known.has(key) || !sound.facts) continue;
        const path = `sounds/${sound.id}/estimate`;
        const found = await call<Estimate>(path, 'POST', wish, signal).catch(() => null);
        if (!found) continue;
        known.set(key, found);
        redraw((n) => n + 1);
      }
    };
    for (let n = 0; n < AT_ONCE; n++) void work();
  });
  useEffect(() => {
    const ending = new AbortController();
    const timer = setTimeout(() => workOut(ending.signal), PAUSE_MS);
    return () => {
      clearTimeout(timer);
      ending.abort();
    };
  }, [wanted]);
  const bySound = new Map(sounds.map(({ id }, i) => [id, known.get(keys[i]!)]));
  return expectedOf(outlooks, bySound);
}

/** Neighbours that say what to expect, and how much further it may lie. */
const LEAST_NEIGHBOURS = 3;
const MARGIN = 0.15;

export function expectedOf(
  outlooks: readonly OneOffOutlook[],
  found: ReadonlyMap<number, Estimate | undefined>,
): Map<number, Expected> {
  const rates = outlooks.flatMap(({ soundId, seconds }) => {
    const bytes = found.get(soundId)?.bytes;
    return bytes !== undefined && seconds > 0 ? [bytes / seconds] : [];
  });
  const neighbours: readonly [number, number] | null =
    rates.length >= LEAST_NEIGHBOURS
      ? [Math.min(...rates) * (1 - MARGIN), Math.max(...rates) * (1 + MARGIN)]
      : null;
  return new Map(
    outlooks.flatMap(({ soundId, seconds, usual, error }): [number, Expected][] => {
      if (error) return [];
      const estimate = found.get(soundId);
      if (estimate) {
        const { bytes, isExact } = estimate;
        return [[soundId, { least: bytes, most: bytes, isExact }]];
      }
      const [least, most] = neighbours ?? usual ?? [0, 0];
      if (most === 0) return [];
      return [[soundId, { least: least * seconds, most: most * seconds, isExact: false }]];
    }),
  );
}

/** All together. */
export function sumOf(expected: Iterable<Expected>): Expected {
  const sum = { least: 0, most: 0, isExact: true };
  for (const { least, most, isExact } of expected) {
    sum.least += least;
    sum.most += most;
    sum.isExact &&= isExact;
  }
  return sum;
}
