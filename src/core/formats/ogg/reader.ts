import { OggVorbisDecoder } from '@wasm-audio-decoders/ogg-vorbis';
import { pieces, type ByteSource } from '../../bytes/source';
import { BLOCK_FRAMES, blockFrames, sliceBlock, type Block, type PcmStream } from '../../pcm/pcm';
import { ascii, viewOf } from '../bits';
import {
  damagedFrames,
  damagedHeader,
  damagedSound,
  noSound,
  truncated,
  unknownCodec,
} from '../problems';
import type { ReaderKind, SoundHeader, SoundReader, Warning } from '../types';
import { FrameWindow } from '../window';
import { readEnd, readPage } from './page';

/** Ogg with Vorbis inside. What else Ogg can carry is named and refused. */
export const oggReader: ReaderKind = {
  id: 'ogg',
  name: 'Ogg Vorbis',
  detect: (head) => ascii(head, 0, 4) === 'OggS',
  open: openOgg,
};

/** First bytes of the first packet, by codec. */
const otherCodecs: readonly [mark: string, name: string][] = [
  ['OpusHead', 'Opus'],
  ['\x7fFLAC', 'FLAC'],
  ['Speex   ', 'Speex'],
  ['\x80theora', 'Theora video'],
];

async function openOgg(source: ByteSource): Promise<SoundReader> {
  const head = await source.read(0, 4096);
  const page = readPage(head, 0);
  if (!page || head.length < page.bytes)
    throw damagedHeader('The first Ogg page is not complete', 0);
  const packet = head.subarray(page.headerBytes, page.bytes);
  if (ascii(packet, 0, 7) !== '\x01vorbis') {
    const known = otherCodecs.find(([mark]) => ascii(packet, 0, mark.length) === mark);
    throw unknownCodec('Ogg', known?.[1] ?? 'an unknown codec', 'Ogg Vorbis or WAV');
  }
  if (packet.length < 30) throw damagedHeader('The Vorbis header is too short', page.headerBytes);
  const channels = packet[11]!;
  const sampleRateHz = viewOf(packet).getUint32(12, true);
  if (channels === 0 || sampleRateHz < 1_000 || sampleRateHz > 768_000) {
    throw damagedHeader(
      `The Vorbis header says ${channels} channels at ${sampleRateHz} Hz`,
      page.headerBytes + 11,
    );
  }
  const end = await readEnd(source, page.serial);
  if (end.complete && end.granule === 0n) throw noSound('Ogg Vorbis');
  const warnings: Warning[] = [];
  if (!end.complete) warnings.push(truncated('the page that marks its end is missing'));
  const header: SoundHeader = {
    container: 'ogg',
    codec: 'vorbis',
    sampleRateHz,
    channels,
    bitDepth: null,
    frames: end.complete && end.granule !== null ? Number(end.granule) : null,
  };
  return {
    header,
    warnings,
    pcm: (startFrame = 0) => decode(source, header, warnings, startFrame),
  };
}

function decode(
  source: ByteSource,
  header: SoundHeader,
  warnings: Warning[],
  startFrame: number,
): PcmStream {
  async function* blocks(): AsyncGenerator<Block> {
    const decoder = new OggVorbisDecoder();
    await decoder.ready;
    let failed = 0;
    const sound = new FrameWindow(startFrame);
    function* take(result: { channelData: Float32Array[]; errors: unknown[] }): Generator<Block> {
      failed += result.errors.length;
      const block = sound.cut(result.channelData) ?? [];
      const frames = blockFrames(block);
      for (let at = 0; at < frames; at += BLOCK_FRAMES) {
        yield sliceBlock(block, at, Math.min(frames, at + BLOCK_FRAMES));
      }
    }
    try {
      for await (const piece of pieces(source, 0, source.size, 1 << 16)) {
        yield* take(await decoder.decode(piece));
      }
      yield* take(await decoder.flush());
    } finally {
      decoder.free();
    }
    if (sound.decoded === 0) throw failed > 0 ? damagedSound('Ogg Vorbis') : noSound('Ogg Vorbis');
    if (failed > 0) warnings.push(damagedFrames(failed));
  }
  return {
    rateHz: header.sampleRateHz,
    channelCount: header.channels,
    frames: header.frames === null ? null : header.frames - startFrame,
    gridBits: null,
    blocks: blocks(),
  };
}
