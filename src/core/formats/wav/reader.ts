import type { ByteSource } from '../../bytes/source';
import { BijouError } from '../../errors';
import { BLOCK_FRAMES, type Block, type PcmStream } from '../../pcm/pcm';
import { ascii, viewOf } from '../bits';
import { damagedHeader, noSound, truncated, unknownCodec } from '../problems';
import type { ReaderKind, SoundReader, Warning } from '../types';
import { sampleKinds, type SampleKind } from './samples';

/** RIFF/WAVE with integer or float PCM; chunks it does not know are passed over. */
export const wavReader: ReaderKind = {
  id: 'wav',
  name: 'WAV',
  detect: (head) => ascii(head, 0, 4) === 'RIFF' && ascii(head, 8, 4) === 'WAVE',
  open: openWav,
};

interface Fmt {
  tag: number;
  channels: number;
  rateHz: number;
  blockAlign: number;
  bits: number;
}

const PCM = 1;
const FLOAT = 3;
const EXTENSIBLE = 0xfffe;
/** Trade names of the format tags that are met most often. */
const tagNames: Record<number, string> = {
  2: 'Microsoft ADPCM',
  6: 'A-law',
  7: 'µ-law',
  0x11: 'IMA ADPCM',
  0x50: 'MPEG layer II',
  0x55: 'MP3',
};

async function openWav(source: ByteSource): Promise<SoundReader> {
  const warnings: Warning[] = [];
  const { fmt, dataStart, dataBytes, stated } = await readChunks(source);
  const kind = sampleKind(fmt);
  const frameBytes = kind.bytes * fmt.channels;
  if (fmt.blockAlign !== frameBytes) {
    throw damagedHeader(
      `The WAV header contradicts itself: ${fmt.channels} channels of ${kind.bytes * 8} bits need ` +
        `${frameBytes} bytes a frame, but it says ${fmt.blockAlign}`,
    );
  }
  const frames = Math.floor(dataBytes / frameBytes);
  if (frames === 0) throw noSound('WAV');
  const openEnded = stated === 0 || stated >= 0xffffff00;
  if (openEnded) {
    warnings.push({
      code: 'lying-length',
      message: 'The header does not state a length; everything up to the end of the file was read.',
    });
  } else if (stated > dataBytes) {
    const promised = Math.floor(stated / frameBytes).toLocaleString('en');
    warnings.push(
      truncated(`the header promises ${promised} frames, ${frames.toLocaleString('en')} are there`),
    );
  }
  return {
    header: {
      container: 'wav',
      codec: kind.codec,
      sampleRateHz: fmt.rateHz,
      channels: fmt.channels,
      bitDepth: kind.bits,
      frames,
    },
    warnings,
    pcm: (startFrame = 0) =>
      pcmOf(source, fmt, kind, dataStart + startFrame * frameBytes, frames - startFrame),
  };
}

async function readChunks(source: ByteSource) {
  let fmt: Fmt | null = null;
  for (let at = 12; at + 8 <= source.size;) {
    const head = await source.read(at, 8);
    if (head.length < 8) break;
    const id = ascii(head, 0, 4);
    const stated = viewOf(head).getUint32(4, true);
    const start = at + 8;
    if (id === 'fmt ') fmt = readFmt(await source.read(start, Math.min(stated, 64)), start);
    if (id === 'data') {
      if (!fmt) throw damagedHeader('The WAV header has no format chunk before its sound', at);
      const left = source.size - start;
      const known = stated > 0 && stated < 0xffffff00;
      // A stated length of zero with bytes behind it is what an interrupted recorder leaves.
      return { fmt, dataStart: start, dataBytes: known ? Math.min(stated, left) : left, stated };
    }
    at = start + stated + (stated % 2);
  }
  throw damagedHeader(
    fmt ? 'The WAV file ends before its sound begins' : 'The WAV header has no format chunk',
    Math.min(12, source.size),
  );
}

function readFmt(bytes: Uint8Array, byteOffset: number): Fmt {
  if (bytes.length < 16) throw damagedHeader('The WAV format chunk is too short', byteOffset);
  const view = viewOf(bytes);
  let tag = view.getUint16(0, true);
  if (tag === EXTENSIBLE && bytes.length >= 26) tag = view.getUint16(24, true);
  const fmt = {
    tag,
    channels: view.getUint16(2, true),
    rateHz: view.getUint32(4, true),
    blockAlign: view.getUint16(12, true),
    bits: view.getUint16(14, true),
  };
  if (fmt.channels === 0 || fmt.channels > 64) {
    throw damagedHeader(`The WAV header says ${fmt.channels} channels`, byteOffset + 2);
  }
  if (fmt.rateHz < 1_000 || fmt.rateHz > 768_000) {
    throw damagedHeader(`The WAV header says a sample rate of ${fmt.rateHz} Hz`, byteOffset + 4);
  }
  return fmt;
}

function sampleKind(fmt: Fmt): SampleKind {
  const kind = sampleKinds.find(
    (k) => k.bytes * 8 === fmt.bits && (fmt.tag === FLOAT ? k.float : fmt.tag === PCM && !k.float),
  );
  if (kind) return kind;
  if (fmt.tag === PCM || fmt.tag === FLOAT) {
    throw new BijouError(
      'unknown-codec',
      `It is a WAV file with samples of ${fmt.bits} bits, which Bijou cannot read.`,
      'Export it with 16, 24 or 32 bits.',
    );
  }
  const name = tagNames[fmt.tag] ?? `the codec 0x${fmt.tag.toString(16).padStart(4, '0')}`;
  throw unknownCodec('WAV', name, 'WAV with 16 or 24-bit PCM');
}

function pcmOf(
  source: ByteSource,
  fmt: Fmt,
  kind: SampleKind,
  start: number,
  frames: number,
): PcmStream {
  const frameBytes = fmt.blockAlign;
  async function* blocks(): AsyncGenerator<Block> {
    for (let done = 0; done < frames;) {
      const count = Math.min(BLOCK_FRAMES, frames - done);
      const bytes = await source.read(start + done * frameBytes, count * frameBytes);
      const got = Math.floor(bytes.length / frameBytes);
      if (got === 0) return;
      yield kind.read(bytes, got, fmt.channels);
      done += got;
    }
  }
  return {
    rateHz: fmt.rateHz,
    channelCount: fmt.channels,
    frames,
    gridBits: kind.float || kind.bits > 24 ? null : kind.bits,
    blocks: blocks(),
  };
}
