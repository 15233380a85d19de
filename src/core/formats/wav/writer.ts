import * as yup from 'yup';
import type { ByteSink } from '../../bytes/source';
import { BijouError } from '../../errors';
import type { Block, PcmStream } from '../../pcm/pcm';
import type { WriterKind, WriteResult } from '../types';
import { Quantiser } from './quantise';

/** `bits` of 32 means 32-bit float. */
export interface WavSettings {
  bits: 16 | 24 | 32;
}

const HEADER_BYTES = { pcm: 44, float: 58 };
const MOST_BYTES = 0xffffffff - 256;

export const wavWriter: WriterKind<WavSettings> = {
  id: 'wav',
  name: 'WAV',
  container: 'wav',
  codec: 'pcm',
  extension: 'wav',
  mimeType: 'audio/wav',
  version: 'bijou-wav-1',
  legal: { rates: null, channels: [1, 2, 3, 4, 5, 6, 7, 8] },
  settings: yup.object({
    bits: yup
      .mixed<16 | 24 | 32>()
      .oneOf([16, 24, 32] as const)
      .default(24)
      .required(),
  }),
  describe: ({ bits }) => (bits === 32 ? '32-bit float' : `${bits}-bit PCM`),
  write: writeWav,
};

async function writeWav(
  pcm: PcmStream,
  sink: ByteSink,
  settings: WavSettings,
): Promise<WriteResult> {
  const { bits } = settings;
  const frameBytes = (bits / 8) * pcm.channelCount;
  if (pcm.frames !== null && pcm.frames * frameBytes > MOST_BYTES) throw tooLong();
  await sink.write(header(pcm, bits, 0));
  const { encode, clipped } = encoder(pcm, bits);
  let framesIn = 0;
  for await (const block of pcm.blocks) {
    framesIn += block[0]?.length ?? 0;
    if (framesIn * frameBytes > MOST_BYTES) throw tooLong();
    await sink.write(encode(block));
  }
  if ((framesIn * frameBytes) % 2 === 1) await sink.write(new Uint8Array(1));
  await sink.write(header(pcm, bits, framesIn), 0);
  return { framesIn, clippedSamples: clipped() };
}

function encoder(pcm: PcmStream, bits: 16 | 24 | 32) {
  if (bits === 32) return { encode: floatBytes, clipped: () => 0 };
  const fits = pcm.gridBits !== null && pcm.gridBits <= bits;
  const quantiser = new Quantiser(bits, !fits);
  return {
    encode: (block: Block) => quantiser.bytes(block),
    clipped: () => quantiser.clippedSamples,
  };
}

function floatBytes(block: Block): Uint8Array {
  const frames = block[0]?.length ?? 0;
  const channels = block.length;
  const out = new Float32Array(frames * channels);
  block.forEach((channel, c) => {
    for (let i = 0, at = c; i < frames; i++, at += channels) out[at] = channel[i]!;
  });
  return new Uint8Array(out.buffer);
}

/** Header before the samples; written once as a placeholder and again when the length is known. */
function header(pcm: PcmStream, bits: number, frames: number): Uint8Array {
  const float = bits === 32;
  const size = float ? HEADER_BYTES.float : HEADER_BYTES.pcm;
  const blockAlign = (bits / 8) * pcm.channelCount;
  const dataBytes = frames * blockAlign;
  const view = new DataView(new ArrayBuffer(size));
  let at = 0;
  const text = (value: string) => {
    for (const letter of value) view.setUint8(at++, letter.charCodeAt(0));
  };
  const u16 = (value: number) => {
    view.setUint16(at, value, true);
    at += 2;
  };
  const u32 = (value: number) => {
    view.setUint32(at, value, true);
    at += 4;
  };
  text('RIFF');
  u32(size - 8 + dataBytes + (dataBytes % 2));
  text('WAVEfmt ');
  u32(float ? 18 : 16);
  u16(float ? 3 : 1);
  u16(pcm.channelCount);
  u32(pcm.rateHz);
  u32(pcm.rateHz * blockAlign);
  u16(blockAlign);
  u16(bits);
  if (float) {
    // Formats other than PCM carry an extension size and a `fact` chunk with their length.
    u16(0);
    text('fact');
    u32(4);
    u32(frames);
  }
  text('data');
  u32(dataBytes);
  return new Uint8Array(view.buffer);
}

function tooLong(): BijouError {
  return new BijouError(
    'not-legal',
    'The result would be larger than the 4 GiB that a WAV file can hold.',
    'Write a shorter span, fewer channels, a lower rate or fewer bits.',
  );
}
