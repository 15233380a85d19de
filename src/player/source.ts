import { LRUCache } from 'lru-cache';
import type { Recipe } from '@/core/recipe/types';
import { askNumbers } from './asking';

/** Something that can be listened to, read in spans. */
export interface Listenable {
  /** Tells versions apart: "source", "shaped", or a finished file. */
  key: string;
  rateHz: number;
  channels: number;
  frames: number;
  /** Address that answers interleaved float32 samples for `start` and `frames`. */
  url: string;
  /** Goes with every question: what the sound is heard behind. */
  recipe?: Recipe | undefined;
  /** Makes the samples right here, an array a channel, where they are not fetched as they are. */
  samples?: ((start: number, frames: number) => Promise<readonly Float32Array[]>) | undefined;
}

/** The first span is short, so that sound begins at once; later ones are longer and fewer. */
const FIRST_SECONDS = 0.4;

export function firstFrames({ rateHz, frames }: Pick<Listenable, 'rateHz' | 'frames'>): number {
  return Math.min(frames, Math.round(FIRST_SECONDS * rateHz));
}

// Beginnings that are probably wanted next, by their addresses.
const ahead = new LRUCache<string, Promise<Float32Array>>({ max: 6 });

/**
 * Fetches what a sound begins with before anybody has asked to hear it. Only for sounds whose address
 * always answers the same.
 */
export function fetchAhead(listenable: Listenable): void {
  const address = addressOf(listenable, 0, firstFrames(listenable));
  if (ahead.get(address)) return;
  const samples = askNumbers(address);
  ahead.set(address, samples);
  samples.catch(() => ahead.delete(address));
}

function addressOf({ url }: Listenable, startFrame: number, frames: number): string {
  const address = new URL(url, location.href);
  address.searchParams.set('start', String(startFrame));
  address.searchParams.set('frames', String(frames));
  return address.href;
}

/** The samples of a span, an array a channel. */
export async function readSpan(
  listenable: Listenable,
  startFrame: number,
  frames: number,
  signal: AbortSignal,
): Promise<readonly Float32Array[]> {
  const { recipe, url, channels, samples } = listenable;
  if (samples) return samples(startFrame, frames);
  const address = addressOf(listenable, startFrame, frames);
  const woven = await (recipe
    ? askNumbers(url, { method: 'POST', data: { recipe, start: startFrame, frames }, signal })
    : (ahead.get(address) ?? askNumbers(address, { signal })));
  return unwoven(woven, channels);
}

/** Samples that lie one after the other for every frame, by channels. */
export function unwoven(samples: Float32Array, channels: number): Float32Array[] {
  return Array.from({ length: channels }, (_, c) => {
    const channel = new Float32Array(samples.length / channels);
    for (let i = 0, at = c; i < channel.length; i++, at += channels) channel[i] = samples[at]!;
    return channel;
  });
}
