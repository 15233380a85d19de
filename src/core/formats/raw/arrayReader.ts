import { pieces, type ByteSource } from '../../bytes/source';
import { BLOCK_FRAMES, type Block } from '../../pcm/pcm';
import { ascii } from '../bits';
import { damagedHeader, damagedSound, noSound } from '../problems';
import type { OpenedFile, ReaderKind } from '../types';
import { FrameWindow } from '../window';

/** C headers as `writer.ts` makes them, so that they too can be decoded again. */
export const arrayReader: ReaderKind = {
  id: 'c',
  name: 'C array',
  codecs: 'PCM 8 and 16 bits, as Bijou writes them',
  extensions: ['h'],
  detect: (head) => HEAD.test(ascii(head, 0, Math.min(head.length, HEAD_BYTES))),
  open: openArray,
};

const HEAD_BYTES = 1_024;
const HEAD =
  /^#ifndef \w+\n[^{]*#define (\w+)_rate_hz (\d{1,6})\n#define \1_channels (\d)\n\nstatic const (u?int(?:8|16)_t) \1\[\] = \{\n/;
const encodings = {
  uint8_t: { bits: 8, middle: 128 },
  int8_t: { bits: 8, middle: 0 },
  int16_t: { bits: 16, middle: 0 },
};

async function openArray(source: ByteSource): Promise<OpenedFile> {
  const found = HEAD.exec(ascii(await source.read(0, HEAD_BYTES), 0, HEAD_BYTES));
  const tail = ascii(await source.read(Math.max(0, source.size - 256), 256), 0, 256);
  const frames = Number(/_frames (\d{1,10})\n/.exec(tail)?.[1] ?? 0);
  if (!found) throw damagedHeader('The C array has no head that Bijou understands', 0);
  if (frames === 0) throw noSound('C array');
  const [head, , rate, count, type] = found;
  const { bits, middle } = encodings[type as keyof typeof encodings];
  const channels = Number(count);
  if (Number(rate) < 1_000 || channels < 1 || channels > 2) {
    throw damagedHeader(`The C array says ${count} channels at ${rate} Hz`, 0);
  }
  const scale = 2 ** (bits - 1);
  async function* blocks(startFrame: number): AsyncGenerator<Block> {
    const window = new FrameWindow(startFrame, frames - startFrame);
    for await (const values of numbers(source, head.length, channels)) {
      if (values.some((value) => Math.abs(value - middle) > scale)) throw damagedSound('C array');
      const block = Array.from({ length: channels }, (_, c) =>
        Float32Array.from(
          { length: values.length / channels },
          (_, i) => (values[i * channels + c]! - middle) / scale,
        ),
      );
      const kept = window.cut(block);
      if (kept) yield kept;
    }
  }
  return {
    header: {
      container: 'c',
      codec: 'pcm',
      sampleRateHz: Number(rate),
      channels,
      bitDepth: bits,
      frames,
    },
    warnings: [],
    pcm: (startFrame = 0) => ({
      rateHz: Number(rate),
      channelCount: channels,
      frames: frames - startFrame,
      gridBits: bits,
      blocks: blocks(startFrame),
    }),
  };
}

/** The array's numbers, a whole number of frames at a time. */
async function* numbers(
  source: ByteSource,
  from: number,
  channels: number,
): AsyncGenerator<number[]> {
  let rest = '';
  let values: number[] = [];
  for await (const piece of pieces(source, from)) {
    const text = rest + new TextDecoder('latin1').decode(piece);
    const end = text.indexOf('}');
    const whole = end >= 0 ? end : text.lastIndexOf(',') + 1;
    rest = text.slice(whole);
    for (const match of text.slice(0, whole).matchAll(/-?\d{1,6}/g)) values.push(Number(match[0]));
    while (values.length >= BLOCK_FRAMES * channels) {
      yield values.slice(0, BLOCK_FRAMES * channels);
      values = values.slice(BLOCK_FRAMES * channels);
    }
    // A number is never this long: whatever this is, it is no array of ours.
    if (end >= 0 || rest.length > 64) break;
  }
  const count = values.length - (values.length % channels);
  if (count > 0) yield values.slice(0, count);
}
