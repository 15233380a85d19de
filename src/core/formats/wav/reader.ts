import type { ByteSource } from '../../bytes/source';
import { BijouError } from '../../errors';
import { count } from '../../tradeNames';
import { ascii } from '../bits';
import { sampleKinds, statedBits, type SampleKind } from '../pcm/samples';
import { plainPcm } from '../pcm/stream';
import { damagedHeader, noSound, truncated, unknownCodec } from '../problems';
import type { OpenedFile, ReaderKind, StatedHeader, Warning } from '../types';
import { marksOf, otherRatesOf, readChunks, type Fmt, type WavChunks } from './chunks';
import { framesInBlock, imaPcm } from './ima';
import { plural } from '../../words';

/** RIFF/WAVE and RF64; chunks it does not know are passed over. */
export const wavReader: ReaderKind = {
  id: 'wav',
  name: 'WAV',
  codecs: 'PCM 8 to 32 bits, float, IMA ADPCM, A-law, µ-law; RF64',
  extensions: ['wav', 'wave', 'rf64'],
  detect: (head) => ['RIFF', 'RF64'].includes(ascii(head, 0, 4)) && ascii(head, 8, 4) === 'WAVE',
  open: openWav,
};

const TAG = { pcm: 1, float: 3, alaw: 6, ulaw: 7, ima: 0x11 };
/** Trade names of what else is met. */
const otherTags: Record<number, string> = {
  2: 'Microsoft ADPCM',
  0x50: 'MPEG layer II',
  0x55: 'MP3',
  0xff: 'AAC',
};

async function openWav(source: ByteSource): Promise<OpenedFile> {
  const chunks = await readChunks(source);
  return chunks.fmt.tag === TAG.ima ? openIma(source, chunks) : openPlain(source, chunks);
}

function openPlain(source: ByteSource, chunks: WavChunks): OpenedFile {
  const { fmt, dataStart, dataBytes, statedBytes } = chunks;
  const sample = sampleOf(fmt);
  const frameBytes = sample.bytes * fmt.channels;
  if (fmt.blockAlign !== frameBytes) {
    throw damagedHeader(
      `The WAV header contradicts itself: ${fmt.channels} channels of ${sample.bytes * 8} bits need ` +
        `${frameBytes} bytes a frame, but it says ${fmt.blockAlign}`,
      fmt.byteOffset + 12,
    );
  }
  const frames = Math.floor(dataBytes / frameBytes);
  if (frames === 0) throw noSound('WAV');
  const promised = statedBytes === null ? null : Math.floor(statedBytes / frameBytes);
  const sound = {
    sample,
    rateHz: fmt.rateHz,
    channels: fmt.channels,
    startByte: dataStart,
    frames,
  };
  const warnings = lengthWarnings(promised, frames);
  return {
    header: headerOf(chunks, sample.codec, statedBits(sample), frames),
    warnings,
    pcm: (startFrame = 0) => plainPcm(source, sound, warnings, startFrame),
  };
}

function openIma(source: ByteSource, chunks: WavChunks): OpenedFile {
  const { fmt, dataStart, dataBytes, statedBytes, factFrames } = chunks;
  const perBlock = framesInBlock(fmt.blockAlign, fmt.channels);
  const isWhole = fmt.bits === 4 && perBlock > 1 && fmt.blockAlign % (4 * fmt.channels) === 0;
  if (!isWhole || (fmt.framesPerBlock > 0 && fmt.framesPerBlock !== perBlock)) {
    throw damagedHeader('The IMA ADPCM header contradicts itself', fmt.byteOffset + 12);
  }
  const blocks = Math.ceil(dataBytes / fmt.blockAlign);
  const tail = dataBytes % fmt.blockAlign;
  const there =
    tail === 0
      ? blocks * perBlock
      : (blocks - 1) * perBlock + Math.max(0, framesInBlock(tail, fmt.channels));
  // The last block is filled up; only the `fact` chunk knows where the sound ends.
  const fact = factFrames ?? 0;
  const frames = fact > there - perBlock && fact <= there ? fact : there;
  if (frames <= 0) throw noSound('WAV');
  const isCut = statedBytes !== null && statedBytes > dataBytes;
  const promised = isCut ? Math.ceil(statedBytes / fmt.blockAlign) * perBlock : frames;
  return {
    header: {
      ...headerOf(chunks, 'ima-adpcm', 4, frames),
      addedFrames: { head: 0, tail: there - frames },
    },
    warnings: lengthWarnings(statedBytes === null ? null : Math.max(promised, fact), frames),
    pcm: (startFrame = 0) =>
      imaPcm(source, {
        startByte: dataStart,
        endByte: dataStart + dataBytes,
        blockBytes: fmt.blockAlign,
        channels: fmt.channels,
        rateHz: fmt.rateHz,
        frames,
        startFrame,
      }),
  };
}

function headerOf(
  chunks: WavChunks,
  codec: string,
  bitDepth: number | null,
  frames: number,
): StatedHeader {
  const { fmt, others } = chunks;
  return {
    container: 'wav',
    codec,
    sampleRateHz: fmt.rateHz,
    channels: fmt.channels,
    bitDepth,
    frames,
    speakerMask: fmt.speakerMask,
    otherRates: otherRatesOf(chunks),
    ...marksOf(others, frames),
  };
}

function lengthWarnings(promised: number | null, frames: number): Warning[] {
  if (promised === null) {
    return [
      {
        code: 'lying-length',
        message:
          'The header does not state a length; everything up to the end of the file was read.',
      },
    ];
  }
  return promised > frames
    ? [truncated(`the header promises ${plural(promised, 'frame')}, ${count(frames)} are there`)]
    : [];
}

function sampleOf(fmt: Fmt): SampleKind {
  const { tag, bits } = fmt;
  if (tag === TAG.alaw && bits === 8) return sampleKinds.alaw;
  if (tag === TAG.ulaw && bits === 8) return sampleKinds.ulaw;
  const integers = { 8: 'u8', 16: 's16le', 24: 's24le', 32: 's32le' } as const;
  const floats = { 32: 'f32le', 64: 'f64le' } as const;
  if (tag === TAG.pcm && bits in integers) return sampleKinds[integers[bits as 8]];
  if (tag === TAG.float && bits in floats) return sampleKinds[floats[bits as 32]];
  if (Object.values(TAG).includes(tag)) {
    throw new BijouError(
      'unknown-codec',
      `It is a WAV file with samples of ${bits} bits, which Bijou cannot read.`,
      'Export it with 16, 24 or 32 bits.',
      { byteOffset: fmt.byteOffset + 14 },
    );
  }
  const name = otherTags[tag] ?? `the codec 0x${tag.toString(16).padStart(4, '0')}`;
  throw unknownCodec('WAV', name, 'WAV with 16 or 24-bit PCM');
}
