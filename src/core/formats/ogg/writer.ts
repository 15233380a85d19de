import { createOggEncoder } from 'wasm-media-encoders';
import * as yup from 'yup';
import type { ByteSink } from '../../bytes/source';
import { blockFrames, type PcmStream } from '../../pcm/pcm';
import { noSound } from '../problems';
import type { WriterKind, WriteResult } from '../types';

/** Vorbis quality, −1 (smallest) … 10 (best). */
export interface VorbisSettings {
  quality: number;
}

/** Fixed, so that the same sound always gives the same bytes. */
const STREAM_SERIAL = 0x0b1900;

export const oggWriter: WriterKind<VorbisSettings> = {
  id: 'ogg',
  name: 'Ogg Vorbis',
  container: 'ogg',
  codec: 'vorbis',
  extension: 'ogg',
  mimeType: 'audio/ogg; codecs=vorbis',
  version: 'libvorbis-1.3.7-bijou-1',
  legal: {
    rates: [
      8_000, 11_025, 12_000, 16_000, 22_050, 24_000, 32_000, 44_100, 48_000, 64_000, 88_200, 96_000,
      176_400, 192_000,
    ],
    channels: [1, 2],
  },
  settings: yup.object({ quality: yup.number().min(-1).max(10).default(5).required() }),
  describe: ({ quality }) => `quality ${quality}`,
  write: writeVorbis,
};

async function writeVorbis(
  pcm: PcmStream,
  sink: ByteSink,
  { quality }: VorbisSettings,
): Promise<WriteResult> {
  const encoder = await createOggEncoder();
  encoder.configure({
    channels: pcm.channelCount as 1 | 2,
    sampleRate: pcm.rateHz,
    vbrQuality: quality,
    oggSerialNo: STREAM_SERIAL,
  });
  let framesIn = 0;
  for await (const block of pcm.blocks) {
    framesIn += blockFrames(block);
    // The encoder hands out its own buffer again and again: copy before the next call.
    await sink.write(encoder.encode(block).slice());
  }
  if (framesIn === 0) throw noSound('Ogg Vorbis');
  await sink.write(encoder.finalize().slice());
  return { framesIn, clippedSamples: 0 };
}
