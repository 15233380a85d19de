import { LRUCache } from 'lru-cache';
import { askNumbers } from '@/player/asking';
import { unwoven } from '@/player/source';
import type { PcmSource } from '@/core/pcm/source';
import { recipeKey } from '@/core/recipe/recipe';
import type { Shape } from '@/core/recipe/types';
import type { Asked } from '../ask';

/** Frames of a tile: a good half second, fetched in one go. */
const TILE_FRAMES = 32_768;
/** What all tiles take: a few minutes of stereo. */
const MOST_BYTES = 128 << 20;

const tiles = new LRUCache<string, { samples: Promise<Float32Array[]>; bytes: number }>({
  maxSize: MOST_BYTES,
  sizeCalculation: ({ bytes }) => bytes,
});

/** A sound behind a recipe, read from the server piece by piece and kept here: what is near is there at once. */
export interface NearSound extends PcmSource {
  /** Fetches a stretch that will soon be wanted. */
  fetchAhead(startFrame: number, endFrame: number): void;
}

/** The samples that the server gives of a sound behind a recipe, in the shape that this has. */
export function nearSound({ sound, recipe }: Asked, shape: Shape): NearSound {
  const { rateHz, channelCount, frames, speakerMask } = shape;
  const key = `${sound.sourceSha256} ${recipeKey(recipe)}`;
  function tile(number: number): Promise<Float32Array[]> {
    const name = `${key} ${number}`;
    const known = tiles.get(name);
    if (known) return known.samples;
    const start = number * TILE_FRAMES;
    const length = Math.min(TILE_FRAMES, frames - start);
    const samples = askNumbers(`/api/sounds/${sound.id}/shaped/pcm`, {
      method: 'POST',
      data: { recipe, start, frames: length },
    }).then((woven) => unwoven(woven, channelCount));
    tiles.set(name, { samples, bytes: length * channelCount * 4 });
    samples.catch(() => tiles.delete(name));
    return samples;
  }
  return {
    rateHz,
    channelCount,
    frames,
    speakerMask,
    gridBits: null,
    async *from(startFrame) {
      for (let at = startFrame; at < frames;) {
        const number = Math.floor(at / TILE_FRAMES);
        const samples = await tile(number);
        const skip = at - number * TILE_FRAMES;
        yield samples.map((channel) => channel.subarray(skip));
        at = (number + 1) * TILE_FRAMES;
      }
    },
    fetchAhead(startFrame, endFrame) {
      const last = Math.min(frames, endFrame) - 1;
      const first = Math.max(0, Math.floor(startFrame / TILE_FRAMES));
      for (let number = first; number * TILE_FRAMES <= last; number++) {
        tile(number).catch(() => undefined);
      }
    },
  };
}
