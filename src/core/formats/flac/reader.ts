import type { IHasher } from 'hash-wasm';
import { pieces, type ByteSource } from '../../bytes/source';
import { blockFrames, inBlocks, type Block, type PcmStream } from '../../pcm/pcm';
import { damagedFrames, damagedSound, noSound, truncated } from '../problems';
import { quietly } from '../quiet';
import { readId3v2 } from '../tags/id3';
import { loopOfComments, tagsOfComments } from '../tags/vorbisComment';
import type { OpenedFile, ReaderKind, Warning } from '../types';
import { FrameWindow } from '../window';
import { FrameCutter } from './frameCutter';
import { isFlac, readFlacHead, speakersOfComments, type FlacHead } from './metadata';
import { plural } from '../../words';

/** FLAC (RFC 9639), its MD5 sum checked while reading. */
export const flacReader: ReaderKind = {
  id: 'flac',
  name: 'FLAC',
  codecs: 'FLAC 8 to 32 bits',
  extensions: ['flac'],
  detect: isFlac,
  open: openFlac,
};

/**
 * Zeros behind the end: the decoder looks so far ahead for the head of a frame, and would take a last
 * frame that is shorter for a part of the one before. A frame's checksum is the same with zeros behind it.
 */
const PADDING = 32;
const PIECE_BYTES = 1 << 16;
/** The first ones are smaller, so that the sound begins soon. */
const FIRST_BYTES = 1 << 13;

async function openFlac(source: ByteSource): Promise<OpenedFile> {
  const { soundStart: start } = await readId3v2(source);
  const head = await readFlacHead(source, start);
  const { info, comments, soundStart } = head;
  if (soundStart >= source.size) throw noSound('FLAC');
  const warnings: Warning[] = [];
  return {
    header: {
      container: 'flac',
      codec: 'flac',
      sampleRateHz: info.rateHz,
      channels: info.channels,
      bitDepth: info.bits,
      frames: info.frames,
      speakerMask: speakersOfComments(comments),
      tags: tagsOfComments(comments),
      ...loopOfComments(comments),
    },
    warnings,
    pcm: (startFrame = 0) => decode(source, head, start, warnings, startFrame),
  };
}

function decode(
  source: ByteSource,
  { info, soundStart }: FlacHead,
  start: number,
  warnings: Warning[],
  startFrame: number,
): PcmStream {
  const frames = info.frames === null ? null : info.frames - startFrame;
  async function* blocks(): AsyncGenerator<Block> {
    const { FLACDecoder } = await import('@wasm-audio-decoders/flac');
    const decoder = new FLACDecoder();
    await decoder.ready;
    const window = new FrameWindow(startFrame, frames ?? Infinity);
    const isSummed = startFrame === 0 && info.md5 !== null && info.bits <= 24;
    const sum = isSummed ? await (await import('hash-wasm')).createMD5() : null;
    let failed = 0;
    // Frames may leave their depth to the head of the file; where they leave their rate to it, it must not be seen.
    const isRated = ((await source.read(soundStart, 3))[2] ?? 0) & 15;
    const head = isRated ? await source.read(start, soundStart - start) : new Uint8Array(0);
    function* take(result: Awaited<ReturnType<typeof decoder.decode>>): Generator<Block> {
      failed += result.errors.length;
      // A damaged frame may claim another layout; nothing behind could use it.
      if (result.channelData.length !== info.channels && result.samplesDecoded > 0) {
        failed++;
        return;
      }
      const block = window.cut(onGrid(result.channelData, info.bits));
      if (!block) return;
      if (sum) addToSum(sum, block, info.bits);
      yield* inBlocks(block);
    }
    const cutter = new FrameCutter(info);
    try {
      if (head.length > 0) yield* take(await quietly(() => decoder.decode(head)));
      for await (const piece of pieces(source, soundStart, source.size, PIECE_BYTES, FIRST_BYTES)) {
        for (const frames of cutter.push(piece)) {
          yield* take(await quietly(() => decoder.decode(frames)));
        }
        if (window.isFull || cutter.isHopeless) break;
      }
      for (const frames of window.isFull ? [] : cutter.rest()) {
        yield* take(await quietly(() => decoder.decode(frames)));
      }
      yield* take(await quietly(() => decoder.decode(new Uint8Array(PADDING))));
      yield* take(await quietly(() => decoder.flush()));
    } finally {
      decoder.free();
    }
    failed += cutter.damaged;
    if (window.decoded === 0) throw failed > 0 ? damagedSound('FLAC') : noSound('FLAC');
    if (failed > 0) warnings.push(damagedFrames(failed));
    else if (window.missing > 0) {
      warnings.push(truncated(`its end is missing: ${plural(window.missing, 'frame')}`));
    } else if (sum && sum.digest('hex') !== info.md5) {
      warnings.push({
        code: 'checksum',
        message: 'The sound is not what its encoder wrote: its checksum (MD5) does not agree.',
      });
    }
  }
  return {
    rateHz: info.rateHz,
    channelCount: info.channels,
    frames,
    gridBits: info.bits > 24 ? null : info.bits,
    blocks: blocks(),
  };
}

/** The decoder divides by one less than full scale; the samples are put back where they were. */
function onGrid(block: Block, bits: number): Block {
  const full = 2 ** (bits - 1);
  return block.map((channel) => {
    const out = new Float32Array(channel.length);
    for (let i = 0; i < out.length; i++) out[i] = Math.floor(channel[i]! * (full - 1) + 0.5) / full;
    return out;
  });
}

/** The sum is over interleaved integers of whole bytes, low byte first. */
function addToSum(sum: IHasher, block: Block, bits: number): void {
  const bytes = Math.ceil(bits / 8);
  const scale = 2 ** (bits - 1);
  const count = block.length;
  const out = new Uint8Array(blockFrames(block) * count * bytes);
  // A channel at a time and without a loop over bytes: this is most of what reading costs beside decoding.
  block.forEach((channel, c) => {
    const step = count * bytes;
    for (let i = 0, at = c * bytes; i < channel.length; i++, at += step) {
      const value = channel[i]! * scale;
      out[at] = value;
      if (bytes > 1) out[at + 1] = value >> 8;
      if (bytes > 2) out[at + 2] = value >> 16;
    }
  });
  sum.update(out);
}
