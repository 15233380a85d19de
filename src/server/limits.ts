import { BijouError } from '@/core/errors';
import { count } from '@/core/tradeNames';

const GIB = 2 ** 30;

/** Largest file that is taken in, in bytes: `BIJOU_MAX_BYTES`, or 2 GiB. */
export function mostBytes(): number {
  return fromEnvironment('BIJOU_MAX_BYTES', 2 * GIB);
}

/** Most that one archive may unpack to, in bytes: `BIJOU_MAX_UNPACKED_BYTES`, or 8 GiB. */
export function mostUnpackedBytes(): number {
  return fromEnvironment('BIJOU_MAX_UNPACKED_BYTES', 8 * GIB);
}

/** Most that pictures and working copies may take, in bytes: `BIJOU_CACHE_BYTES`, or 10 GiB. */
export function mostCacheBytes(): number {
  return fromEnvironment('BIJOU_CACHE_BYTES', 10 * GIB);
}

/** Most files of one archive, or of one act of bringing in. */
export const MOST_ENTRIES = 50_000;

function fromEnvironment(name: string, otherwise: number): number {
  const set = Number(process.env[name]);
  return Number.isFinite(set) && set > 0 ? set : otherwise;
}

export function tooLarge(): BijouError {
  const most = mostBytes();
  const text = most >= GIB ? `${+(most / GIB).toFixed(2)} GiB` : `${count(most)} bytes`;
  return new BijouError(
    'too-large',
    `The file is larger than the limit of ${text}.`,
    'Bring it in in shorter pieces, or raise BIJOU_MAX_BYTES.',
  );
}

/** So many jobs that take long are overtaken by others at a time, each in a thread of its own. */
export const MOST_OVERTAKEN = 6;
