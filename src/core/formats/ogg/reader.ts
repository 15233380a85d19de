import type { ByteSource } from '../../bytes/source';
import { ascii } from '../bits';
import { damagedHeader, unknownCodec } from '../problems';
import type { OpenedFile, ReaderKind } from '../types';
import { openOggOpus } from './opusReader';
import { MOST_PAGE_BYTES, readPage } from './page';
import { openOggVorbis } from './vorbisReader';

/** Ogg with Vorbis or Opus inside. What else Ogg can carry is named and refused. */
export const oggReader: ReaderKind = {
  id: 'ogg',
  name: 'Ogg',
  codecs: 'Vorbis, Opus',
  extensions: ['ogg', 'oga', 'opus'],
  detect: (head) => ascii(head, 0, 4) === 'OggS',
  open: openOgg,
};

/** Opens a stream by its first packet, which begins at `byteOffset`. */
type OpenStream = (
  source: ByteSource,
  serial: number,
  packet: Uint8Array,
  byteOffset: number,
) => Promise<OpenedFile>;

/** First bytes of the first packet, by codec. */
const codecs: readonly [mark: string, open: OpenStream][] = [
  ['\x01vorbis', openOggVorbis],
  ['OpusHead', openOggOpus],
];
const otherCodecs: readonly [mark: string, name: string][] = [
  ['\x7fFLAC', 'FLAC'],
  ['Speex   ', 'Speex'],
  ['\x80theora', 'Theora video'],
];

async function openOgg(source: ByteSource): Promise<OpenedFile> {
  const head = await source.read(0, MOST_PAGE_BYTES);
  const page = readPage(head, 0);
  if (!page || head.length < page.bytes)
    throw damagedHeader('The first Ogg page is not complete', 0);
  const packet = head.subarray(page.headerBytes, page.bytes);
  const begins = (mark: string) => ascii(packet, 0, mark.length) === mark;
  const known = codecs.find(([mark]) => begins(mark));
  if (known) return known[1](source, page.serial, packet, page.headerBytes);
  const other = otherCodecs.find(([mark]) => begins(mark));
  throw unknownCodec('Ogg', other?.[1] ?? 'an unknown codec', 'Ogg Vorbis, Ogg Opus or WAV');
}
