import { pieces, type ByteSource } from '../../bytes/source';
import { BLOCK_FRAMES, blockFrames, inBlocks, type Block, type PcmStream } from '../../pcm/pcm';
import { FrameWindow } from '../window';

/**
 * IMA ADPCM as WAV holds it (IMA Digital Audio Focus and Technical Working Groups, 1992; Microsoft's
 * format 0x0011): blocks with a preamble of four bytes a channel (first sample, step index, 0), then
 * groups of four bytes a channel, each with eight samples of four bits, the low half first.
 */
const STEPS = Int32Array.of(
  7,
  8,
  9,
  10,
  11,
  12,
  13,
  14,
  16,
  17,
  19,
  21,
  23,
  25,
  28,
  31,
  34,
  37,
  41,
  45,
  50,
  55,
  60,
  66,
  73,
  80,
  88,
  97,
  107,
  118,
  130,
  143,
  157,
  173,
  190,
  209,
  230,
  253,
  279,
  307,
  337,
  371,
  408,
  449,
  494,
  544,
  598,
  658,
  724,
  796,
  876,
  963,
  1060,
  1166,
  1282,
  1411,
  1552,
  1707,
  1878,
  2066,
  2272,
  2499,
  2749,
  3024,
  3327,
  3660,
  4026,
  4428,
  4871,
  5358,
  5894,
  6484,
  7132,
  7845,
  8630,
  9493,
  10442,
  11487,
  12635,
  13899,
  15289,
  16818,
  18500,
  20350,
  22385,
  24623,
  27086,
  29794,
  32767,
);
const INDEX_MOVES = [-1, -1, -1, -1, 2, 4, 6, 8];

/** Frames in a block of `bytes` bytes: one in the preamble and eight in each group. */
export function framesInBlock(bytes: number, channels: number): number {
  return 1 + Math.floor((bytes - 4 * channels) / (4 * channels)) * 8;
}

/** The predictor that encoder and decoder share. */
class ImaState {
  constructor(
    public value: number,
    public index: number,
  ) {}

  decode(code: number): number {
    const step = STEPS[this.index]!;
    let change = step >> 3;
    if (code & 4) change += step;
    if (code & 2) change += step >> 1;
    if (code & 1) change += step >> 2;
    const value = this.value + (code & 8 ? -change : change);
    this.value = value > 32_767 ? 32_767 : value < -32_768 ? -32_768 : value;
    const index = this.index + INDEX_MOVES[code & 7]!;
    this.index = index < 0 ? 0 : index > 88 ? 88 : index;
    return this.value;
  }

  /** The code whose decoded value comes nearest from below, as the standard's encoder finds it. */
  encode(sample: number): number {
    let rest = sample - this.value;
    let code = 0;
    if (rest < 0) {
      code = 8;
      rest = -rest;
    }
    let step = STEPS[this.index]!;
    for (const bit of [4, 2, 1]) {
      if (rest >= step) {
        code |= bit;
        rest -= step;
      }
      step >>= 1;
    }
    this.decode(code);
    return code;
  }
}

interface ImaSound {
  startByte: number;
  endByte: number;
  blockBytes: number;
  channels: number;
  rateHz: number;
  frames: number;
  startFrame: number;
}

/** Decodes from any frame on; only whole blocks are begun. */
export function imaPcm(source: ByteSource, sound: ImaSound): PcmStream {
  const { blockBytes, channels, rateHz, frames, startFrame } = sound;
  const perBlock = framesInBlock(blockBytes, channels);
  const firstBlock = Math.floor(startFrame / perBlock);
  async function* blocks(): AsyncGenerator<Block> {
    const window = new FrameWindow(startFrame - firstBlock * perBlock, frames - startFrame);
    const atOnce = Math.max(1, Math.floor(BLOCK_FRAMES / perBlock)) * blockBytes;
    const start = sound.startByte + firstBlock * blockBytes;
    for await (const bytes of pieces(source, start, sound.endByte, atOnce)) {
      const block = window.cut(decodeBlocks(bytes, blockBytes, channels));
      if (block) yield* inBlocks(block);
    }
  }
  return {
    rateHz,
    channelCount: channels,
    frames: frames - startFrame,
    gridBits: 16,
    blocks: blocks(),
  };
}

function decodeBlocks(bytes: Uint8Array, blockBytes: number, channels: number): Block {
  const perBlock = framesInBlock(blockBytes, channels);
  const whole = Math.floor(bytes.length / blockBytes);
  const tail = bytes.length - whole * blockBytes;
  const frames = whole * perBlock + (tail >= 4 * channels ? framesInBlock(tail, channels) : 0);
  const out = Array.from({ length: channels }, () => new Float32Array(frames));
  for (let b = 0, at = 0; at < frames; b++, at += perBlock) {
    const start = b * blockBytes;
    decodeBlock(bytes.subarray(start, start + blockBytes), out, at);
  }
  return out;
}

function decodeBlock(bytes: Uint8Array, out: readonly Float32Array[], at: number): void {
  const channels = out.length;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const groups = Math.floor(bytes.length / (4 * channels)) - 1;
  out.forEach((channel, c) => {
    const state = new ImaState(view.getInt16(4 * c, true), Math.min(88, bytes[4 * c + 2]!));
    channel[at] = state.value / 32_768;
    let frame = at + 1;
    for (let g = 0; g < groups; g++) {
      const group = 4 * channels * (g + 1) + 4 * c;
      for (let i = 0; i < 4; i++) {
        const byte = bytes[group + i]!;
        channel[frame++] = state.decode(byte & 15) / 32_768;
        channel[frame++] = state.decode(byte >> 4) / 32_768;
      }
    }
  });
}

/** Bytes of a block at a rate: 256 a channel up to 11 kHz, doubled with each doubling of the rate. */
function imaBlockBytes(rateHz: number, channels: number): number {
  return 256 * channels * (rateHz <= 11_025 ? 1 : rateHz <= 22_050 ? 2 : rateHz <= 44_100 ? 4 : 8);
}

/** Frames of a block by which the step index is judged that it begins with: behind them all have found theirs. */
const JUDGED_FRAMES = 32;
/** In a later block the step index that the one before ended with is nearly right. */
const INDEX_TRIES = [0, -4, 4, -8, 8];

/** Encodes whole blocks of interleaved 16-bit samples; each begins with the step index that errs least. */
export class ImaEncoder {
  readonly blockBytes: number;
  readonly framesPerBlock: number;
  /** Step indexes at the end of the block before; null in front of the first one. */
  private indexes: number[] | null = null;

  constructor(
    rateHz: number,
    private readonly channels: number,
  ) {
    this.blockBytes = imaBlockBytes(rateHz, channels);
    this.framesPerBlock = framesInBlock(this.blockBytes, channels);
  }

  /** One block from `framesPerBlock` frames. */
  block(samples: Int32Array): Uint8Array {
    const { channels } = this;
    const indexes: number[] = [];
    const out = new Uint8Array(this.blockBytes);
    const view = new DataView(out.buffer);
    for (let c = 0; c < channels; c++) {
      const state = new ImaState(samples[c]!, this.firstIndex(samples, c));
      view.setInt16(4 * c, state.value, true);
      view.setUint8(4 * c + 2, state.index);
      let frame = 1;
      for (let group = 4 * (channels + c); group < out.length; group += 4 * channels) {
        for (let i = 0; i < 4; i++) {
          const low = state.encode(samples[frame++ * channels + c]!);
          const high = state.encode(samples[frame++ * channels + c]!);
          out[group + i] = low | (high << 4);
        }
      }
      indexes[c] = state.index;
    }
    this.indexes = indexes;
    return out;
  }

  private firstIndex(samples: Int32Array, c: number): number {
    const carried = this.indexes?.[c];
    const tries =
      carried === undefined
        ? STEPS.keys()
        : INDEX_TRIES.map((move) => Math.max(0, Math.min(88, carried + move)));
    let [best, least] = [0, Infinity];
    for (const index of tries) {
      const error = this.errorFrom(samples, c, index, least);
      if (error < least) [best, least] = [index, error];
    }
    return best;
  }

  /** Sum of the squared errors of a block's first frames; what is no less than `most` need not be right. */
  private errorFrom(samples: Int32Array, c: number, index: number, most: number): number {
    const state = new ImaState(samples[c]!, index);
    let sum = 0;
    const frames = Math.min(JUDGED_FRAMES, this.framesPerBlock);
    for (let frame = 1; frame < frames && sum < most; frame++) {
      const sample = samples[frame * this.channels + c]!;
      state.encode(sample);
      sum += (state.value - sample) ** 2;
    }
    return sum;
  }
}

/** Over so many frames the filling of a last block goes to silence. */
const FADE_FRAMES = 64;

/**
 * Fills a shorter last block up. Only the `fact` chunk says that the filling is no sound, and not every player
 * looks there: from the last frame it goes quickly and smoothly to silence.
 */
export function filledUp(block: Block, frames: number): Block {
  const have = blockFrames(block);
  return block.map((channel) => {
    const whole = new Float32Array(frames);
    whole.set(channel);
    const last = channel[have - 1] ?? 0;
    for (let i = 0; i < FADE_FRAMES && have + i < frames; i++) {
      whole[have + i] = last * Math.cos((Math.PI / 2) * ((i + 1) / FADE_FRAMES)) ** 2;
    }
    return whole;
  });
}
