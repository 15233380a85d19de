import { BijouError } from '../errors';
import { count } from '../tradeNames';

/** What a host reads of a pack at most: packs come from anywhere, and may have been made to do harm. */

/** As many as the largest project has sounds. */
export const MOST_FILES = 50_000;
/** Of all files together, unpacked. */
export const MOST_BYTES = 2 ** 30;
export const MOST_SOUND_BYTES = 2 ** 28;
/** Of a text that people read, a descriptor, an index. */
export const MOST_TEXT_BYTES = 2 ** 20;
export const MOST_INDEX_BYTES = 16 * 2 ** 20;
/** So many problems of one text are said one by one. */
export const MOST_SAID = 20;

/** A file that no host reads, by its bytes. */
export function tooLargeFile(bytes: number): BijouError {
  return new BijouError(
    'too-large',
    `It comes to ${count(bytes)} bytes; a host reads files of at most ${count(MOST_SOUND_BYTES)}.`,
    'Make it shorter or smaller.',
  );
}
