import { m4aReader } from './m4a/reader';
import { m4aWriter } from './m4a/writer';
import { mp3Reader } from './mp3/reader';
import { mp3Writer } from './mp3/writer';
import { oggReader } from './ogg/reader';
import { oggWriter } from './ogg/writer';
import type { ReaderKind, WriterKind } from './types';
import { wavReader } from './wav/reader';
import { wavWriter } from './wav/writer';

/** Everything that can be read, in the order in which it is looked for. */
export const readers: readonly ReaderKind[] = [wavReader, oggReader, m4aReader, mp3Reader];

/** Everything that can be written. Settings are checked by each kind's own schema. */
export const writers = [
  wavWriter,
  mp3Writer,
  oggWriter,
  m4aWriter,
] as unknown as readonly WriterKind[];
