import { BijouError } from '@/core/errors';

const GIB = 2 ** 30;

/** Largest file that is taken in, in bytes: `BIJOU_MAX_BYTES`, or 2 GiB. */
export function mostBytes(): number {
  const set = Number(process.env['BIJOU_MAX_BYTES']);
  return Number.isFinite(set) && set > 0 ? set : 2 * GIB;
}

export function tooLarge(): BijouError {
  const most = mostBytes();
  const text =
    most >= GIB ? `${+(most / GIB).toFixed(2)} GiB` : `${most.toLocaleString('en')} bytes`;
  return new BijouError(
    'too-large',
    `The file is larger than the limit of ${text}.`,
    'Bring it in in shorter pieces, or raise BIJOU_MAX_BYTES.',
  );
}
