import * as yup from 'yup';
import type { ByteSink } from '../../bytes/source';
import { BijouError } from '../../errors';
import type { Loop, Marker, Marks } from '../../marks';
import { lostManner } from '../loopTroubles';
import { blockFrames, type PcmStream } from '../../pcm/pcm';
import { ByteWriter, encodeText, evenBytes, joinBytes } from '../bits';
import { SampleWriter } from '../pcm/quantise';
import { anyRate } from '../rates';
import { writeId3v2 } from '../tags/id3';
import type { WriterKind, WriteResult } from '../types';
import { writeExtended } from './extended';

export interface AiffSettings {
  bits: 8 | 16 | 24;
}

/** A marker's name has its length in a byte; with it, it takes an even number of bytes. */
const MOST_NAME_BYTES = 254;
/** `FORM`, its type, the common chunk, and the head of the sound chunk. */
const HEAD_BYTES = 12 + 26 + 16;
const MOST_BYTES = 0xffffffff - (1 << 20);

const encodings = { 8: 's8', 16: 's16be', 24: 's24be' } as const;

export const aiffWriter: WriterKind<AiffSettings> = {
  id: 'aiff',
  name: 'AIFF',
  format: 'aiff',
  container: 'aiff',
  codec: 'pcm',
  extension: 'aiff',
  mimeType: 'audio/aiff',
  version: 'bijou-aiff-3',
  legal: {
    rates: anyRate,
    channels: [1, 2, 3, 4, 5, 6, 7, 8],
    depths: [8, 16, 24].map((bits) => ({ bits, settings: { bits } })),
  },
  carries: { tags: true, loop: true, markers: true, speakers: false },
  loses: ({ loop }) => lostManner(loop),
  range: '8, 16, 24-bit',
  dials: [],
  settings: yup.object({
    bits: yup
      .mixed<8 | 16 | 24>()
      .oneOf([8, 16, 24] as const)
      .default(24)
      .required(),
  }),
  soundBytes: (frames, { bits }, _, channels) => evenBytes((frames * channels * bits) / 8),
  describe: ({ bits }) => `${bits}-bit PCM`,
  write: writeAiff,
};

async function writeAiff(
  pcm: PcmStream,
  sink: ByteSink,
  { bits }: AiffSettings,
  marks: Marks,
): Promise<WriteResult> {
  const frameBytes = (bits / 8) * pcm.channelCount;
  if ((pcm.frames ?? 0) * frameBytes > MOST_BYTES) throw tooLong();
  const samples = new SampleWriter(encodings[bits], pcm);
  await sink.write(new Uint8Array(HEAD_BYTES));
  let framesIn = 0;
  for await (const block of pcm.blocks) {
    framesIn += blockFrames(block);
    if (framesIn * frameBytes > MOST_BYTES) throw tooLong();
    await sink.write(samples.bytes(block));
  }
  const dataBytes = framesIn * frameBytes;
  const behind = joinBytes(new Uint8Array(dataBytes % 2), writeMarks(marks));
  if (behind.length > 0) await sink.write(behind);
  const head = new ByteWriter().text('FORM').u32be(HEAD_BYTES - 8 + dataBytes + behind.length);
  head.text('AIFFCOMM').u32be(18).u16be(pcm.channelCount).u32be(framesIn).u16be(bits);
  head.raw(writeExtended(pcm.rateHz));
  head
    .text('SSND')
    .u32be(dataBytes + 8)
    .u32be(0)
    .u32be(0);
  await sink.write(head.bytes(), 0);
  return { framesIn, clippedSamples: samples.clippedSamples };
}

function chunk(id: string, data: Uint8Array): Uint8Array {
  const out = new ByteWriter().text(id).u32be(data.length).raw(data);
  return (data.length % 2 === 1 ? out.u8(0) : out).bytes();
}

/** Tags; the loop as two markers and an instrument that names them. */
function writeMarks({ tags, loop, markers }: Marks): Uint8Array {
  const texts = [
    ['NAME', tags.title],
    ['AUTH', tags.artist],
    ['ANNO', tags.comment],
  ] as const;
  const parts = texts.flatMap(([id, text]) => (text ? [chunk(id, encodeText(text))] : []));
  // AIFF's own chunks know three tags; the rest stands in one that other programs read too.
  if (Object.keys(tags).length > 0) parts.push(chunk('ID3 ', writeId3v2(tags)));
  const all: Marker[] = [...markers];
  if (loop) {
    all.push({ frame: loop.startFrame, name: 'loop start' });
    all.push({ frame: loop.endFrame, name: 'loop end' });
  }
  if (all.length > 0) {
    const list = new ByteWriter().u16be(all.length);
    all.forEach(({ frame, name }, i) => {
      const letters = encodeText(name, MOST_NAME_BYTES);
      list
        .u16be(i + 1)
        .u32be(frame)
        .u8(letters.length)
        .raw(letters);
      if ((1 + letters.length) % 2 === 1) list.u8(0);
    });
    parts.push(chunk('MARK', list.bytes()));
  }
  if (loop) parts.push(chunk('INST', instrument(loop, all.length - 1, all.length)));
  return joinBytes(...parts);
}

/** An instrument over all keys whose sustain loop runs between two markers. */
function instrument({ isBackAndForth }: Loop, startId: number, endId: number): Uint8Array {
  const out = new ByteWriter().u8(60).u8(0).u8(0).u8(127).u8(1).u8(127).u16be(0);
  return out
    .u16be(isBackAndForth ? 2 : 1)
    .u16be(startId)
    .u16be(endId)
    .u16be(0)
    .u16be(0)
    .u16be(0)
    .bytes();
}

function tooLong(): BijouError {
  return new BijouError(
    'not-legal',
    'The result would be larger than the 4 GiB that an AIFF file can hold.',
    'Write a shorter span, fewer channels, a lower rate or fewer bits.',
  );
}
