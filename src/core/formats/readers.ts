import { adtsReader } from './adts/reader';
import { aiffReader } from './aiff/reader';
import { flacReader } from './flac/reader';
import { mp3Reader } from './mp3/reader';
import { mp4Reader } from './mp4/reader';
import { oggReader } from './ogg/reader';
import { arrayReader } from './raw/arrayReader';
import { wavReader } from './wav/reader';
import { webmReader } from './webm/reader';
import type { ReaderKind } from './types';

/**
 * Everything that can be read, in the order in which it is looked for: what has a mark in its first
 * bytes before what must be searched for.
 */
export const readers: readonly ReaderKind[] = [
  wavReader,
  aiffReader,
  flacReader,
  oggReader,
  mp4Reader,
  webmReader,
  arrayReader,
  adtsReader,
  mp3Reader,
];
