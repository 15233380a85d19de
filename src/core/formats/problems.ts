import { BijouError } from '../errors';
import type { Warning } from './types';
import { plural } from '../words';

/** The sentences that several formats share, so that the same fault always reads the same. */

export function damagedHeader(what: string, byteOffset?: number): BijouError {
  return new BijouError(
    'damaged-header',
    `${what}.`,
    'Get the file again from where it came from, or export it anew.',
    byteOffset === undefined ? {} : { byteOffset },
  );
}

export function noSound(container: string): BijouError {
  return new BijouError(
    'no-sound',
    `It is a valid ${container} file, but there is no sound in it: its length is zero frames.`,
    'Export the sound again and check that its length is not zero.',
  );
}

export function unknownCodec(container: string, codec: string, readable: string): BijouError {
  return new BijouError(
    'unknown-codec',
    `It is a ${container} file that carries ${codec}, which Bijou cannot read yet.`,
    `Export it as ${readable}.`,
  );
}

export function damagedSound(container: string): BijouError {
  return new BijouError(
    'damaged-sound',
    `The ${container} header is in order, but none of the sound in it can be decoded.`,
    'Get the file again from where it came from.',
  );
}

export function truncated(detail: string): Warning {
  return {
    code: 'truncated',
    message: `The file is cut off: ${detail}. What could be decoded was kept.`,
  };
}

/** Samples that are NaN, infinite, or beyond anything that sound can be. */
export function notFinite(count: number): Warning {
  const samples = plural(count, 'sample is no number');
  return { code: 'not-finite', message: `${samples} (NaN or infinite); 0 was read instead.` };
}

export function damagedFrames(count: number): Warning {
  return {
    code: 'damaged-frames',
    message: `${plural(count, 'part of the sound')} could not be decoded.`,
  };
}
