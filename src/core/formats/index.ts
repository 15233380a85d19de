import { aiffWriter } from './aiff/writer';
import { flacWriter } from './flac/writer';
import { mp3Writer } from './mp3/writer';
import { m4aWriter } from './mp4/writer';
import { oggOpusWriter } from './ogg/opusWriter';
import { oggWriter } from './ogg/vorbisWriter';
import { arrayWriter, rawWriter } from './raw/writer';
import type { WriterKind } from './types';
import { imaWriter, wavWriter } from './wav/writer';
import { webmWriter } from './webm/writer';

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
