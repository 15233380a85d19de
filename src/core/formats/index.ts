import { adtsReader } from './adts/reader';
import { aiffReader } from './aiff/reader';
import { aiffWriter } from './aiff/writer';
import { flacReader } from './flac/reader';
import { flacWriter } from './flac/writer';
import { mp3Reader } from './mp3/reader';
import { mp3Writer } from './mp3/writer';
import { mp4Reader } from './mp4/reader';
import { m4aWriter } from './mp4/writer';
import { oggOpusWriter } from './ogg/opusWriter';
import { oggReader } from './ogg/reader';
import { oggWriter } from './ogg/vorbisWriter';
import { arrayReader } from './raw/arrayReader';
import { arrayWriter, rawWriter } from './raw/writer';
import type { ReaderKind, WriterKind } from './types';
import { wavReader } from './wav/reader';
import { imaWriter, wavWriter } from './wav/writer';
import { webmReader } from './webm/reader';
import { webmWriter } from './webm/writer';

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

/**
 * Everything that can be written, each format's usual codec first. Settings are checked by each
 * kind's own schema.
 */
export const writers = [
  wavWriter,
  imaWriter,
  aiffWriter,
  flacWriter,
  mp3Writer,
  oggWriter,
  oggOpusWriter,
  webmWriter,
  m4aWriter,
  rawWriter,
  arrayWriter,
] as unknown as readonly WriterKind[];
