import * as yup from 'yup';
import type { ByteSink } from '../../bytes/source';
import type { Marks } from '../../marks';
import { blockFrames, rechunk, type Block, type PcmStream } from '../../pcm/pcm';
import { Quantiser, SampleWriter } from '../pcm/quantise';
import { noSound } from '../problems';
import { anyRate } from '../rates';
import type { WriterKind, WriteResult } from '../types';
import { WavFile } from './file';
import { evenBytes } from '../bits';
import { filledUp, ImaEncoder } from './ima';

/** `bits` of 32 means 32-bit float. */
export interface WavSettings {
  bits: 8 | 16 | 24 | 32;
}

const container = {
  container: 'wav',
  extension: 'wav',
  mimeType: 'audio/wav',
  format: 'wav',
  carries: { tags: true, loop: true, markers: true, speakers: true },
};

export const wavWriter: WriterKind<WavSettings> = {
  ...container,
  id: 'wav',
  name: 'WAV',
  codec: 'pcm',
  version: 'bijou-wav-4',
  legal: {
    rates: anyRate,
    channels: [1, 2, 3, 4, 5, 6, 7, 8],
    depths: [
      { bits: 8, settings: { bits: 8 } },
      { bits: 16, settings: { bits: 16 } },
      { bits: 24, settings: { bits: 24 } },
      { bits: 32, isFloat: true, settings: { bits: 32 } },
    ],
  },
  range: '8-bit unsigned, 16, 24, 32-bit float',
  dials: [],
  settings: yup.object({
    bits: yup
      .mixed<8 | 16 | 24 | 32>()
      .oneOf([8, 16, 24, 32] as const)
      .default(24)
      .required(),
  }),
  holdsBeyond: ({ bits }) => bits === 32,
  soundBytes: (frames, { bits }, _, channels) => evenBytes((frames * channels * bits) / 8),
  describe: ({ bits }) => (bits === 32 ? '32-bit float' : `${bits}-bit PCM`),
  write: writePlain,
};

async function writePlain(
  pcm: PcmStream,
  sink: ByteSink,
  { bits }: WavSettings,
  marks: Marks,
): Promise<WriteResult> {
  const frameBytes = (bits / 8) * pcm.channelCount;
  const file = new WavFile(sink, pcm, {
    tag: bits === 32 ? 3 : 1,
    bits,
    blockBytes: frameBytes,
    bytesPerSecond: frameBytes * pcm.rateHz,
  });
  await file.begin(pcm.frames && pcm.frames * frameBytes);
  const encodings = { 8: 'u8', 16: 's16le', 24: 's24le' } as const;
  const samples = bits === 32 ? null : new SampleWriter(encodings[bits], pcm);
  let framesIn = 0;
  for await (const block of pcm.blocks) {
    framesIn += blockFrames(block);
    await file.add(samples ? samples.bytes(block) : floatBytes(block));
  }
  await file.finish(framesIn, marks);
  return { framesIn, clippedSamples: samples?.clippedSamples ?? 0 };
}

function floatBytes(block: Block): Uint8Array {
  const channels = block.length;
  const out = new Float32Array(blockFrames(block) * channels);
  block.forEach((channel, c) => {
    for (let i = 0, at = c; i < channel.length; i++, at += channels) out[at] = channel[i]!;
  });
  return new Uint8Array(out.buffer);
}

export const imaWriter: WriterKind<object> = {
  ...container,
  id: 'wav-ima-adpcm',
  name: 'WAV with IMA ADPCM',
  codec: 'ima-adpcm',
  carries: { ...container.carries, speakers: false },
  version: 'bijou-ima-4',
  legal: { rates: anyRate, channels: [1, 2], depths: null },
  range: '4 bits a sample',
  dials: [],
  settings: yup.object({}),
  soundBytes(frames, _, rateHz, channels) {
    const { blockBytes, framesPerBlock } = new ImaEncoder(rateHz, channels);
    return evenBytes(Math.ceil(frames / framesPerBlock) * blockBytes);
  },
  describe: () => '4-bit IMA ADPCM',
  write: writeIma,
};

async function writeIma(
  pcm: PcmStream,
  sink: ByteSink,
  _: object,
  marks: Marks,
): Promise<WriteResult> {
  const encoder = new ImaEncoder(pcm.rateHz, pcm.channelCount);
  const { blockBytes, framesPerBlock } = encoder;
  // Speakers are stated for plain samples only.
  const { rateHz, channelCount } = pcm;
  const file = new WavFile(
    sink,
    { rateHz, channelCount },
    {
      tag: 0x11,
      bits: 4,
      blockBytes,
      framesPerBlock,
      bytesPerSecond: Math.round((pcm.rateHz * blockBytes) / framesPerBlock),
    },
  );
  await file.begin(pcm.frames && (pcm.frames / framesPerBlock) * blockBytes);
  // The codec's own noise is far above a 16-bit grid's: dither would only add to it.
  const quantiser = new Quantiser(16, { gridBits: 16 });
  let framesIn = 0;
  for await (const block of rechunk(pcm, framesPerBlock).blocks) {
    framesIn += blockFrames(block);
    await file.add(encoder.block(quantiser.integers(filledUp(block, framesPerBlock))));
  }
  if (framesIn === 0) throw noSound('WAV');
  await file.finish(framesIn, marks);
  return { framesIn, clippedSamples: quantiser.clippedSamples };
}
