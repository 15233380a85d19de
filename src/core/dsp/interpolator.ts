import type { Stretch } from '../marks';
import { blockFrames, inBlocks, sliceBlock, type Block } from '../pcm/pcm';
import { emptyChannels, silentBlocks, type PcmSource, type Piece } from '../pcm/source';
import { filterBank, type FilterBank } from './filterBank';
import { runPolyphase } from './kernel/polyphase';

/**
 * Where output frames lie in an input: frame n at (`first` + n × `down`) / `up` input frames. All are whole, so that
 * a place never depends on where reading began.
 */
export interface Line {
  first: bigint;
  up: number;
  down: number;
}

/** Reads a sound between its frames, along a line. Cutting its input into other blocks never changes its output. */
export class Interpolator {
  /** Input not yet passed, per channel; begins with the filter's look-back. */
  private readonly held: Float32Array[];
  private heldFrames = 0;
  /** Place of the next output frame: whole input frames into `held`, and `phase`/`up` of one more. */
  private at = 0;
  private phase: number;
  /** The first input frame that is needed; below 0 in front of the sound. */
  readonly firstInput: number;

  /** Begins with output frame `startFrame`. */
  constructor(
    private readonly line: Line,
    private readonly bank: FilterBank,
    channelCount: number,
    startFrame: number,
  ) {
    const up = BigInt(line.up);
    const place = line.first + BigInt(startFrame) * BigInt(line.down);
    // The remainder of what lies in front of 0 is below 0.
    const phase = ((place % up) + up) % up;
    this.phase = Number(phase);
    this.firstInput = Number((place - phase) / up) - (bank.taps / 2 - 1);
    this.held = emptyChannels(channelCount, 0);
  }

  /** The output frames that are known now. */
  push(block: Block): Block {
    this.append(block);
    const ready = this.heldFrames - this.bank.taps - this.at;
    if (ready < 0) return this.held.map(() => new Float32Array(0));
    // Output frames whose whole filter lies inside what is held. A fine line leaves a double's whole numbers.
    const { up, down } = this.line;
    const room = BigInt(ready + 1) * BigInt(up) - BigInt(this.phase) - 1n;
    return this.produce(Number(room / BigInt(down)) + 1);
  }

  /** Output frames up to the first whose filter needs what has not come; as many as `count`, against silence. */
  finish(count: number): Block {
    if (count <= 0) return this.held.map(() => new Float32Array(0));
    const last = this.at + this.moved(count - 1).whole;
    const missing = Math.max(0, last + this.bank.taps - this.heldFrames);
    this.append(emptyChannels(this.held.length, missing));
    return this.produce(count);
  }

  private append(block: Block): void {
    const frames = blockFrames(block);
    const drop = Math.min(this.at, this.heldFrames);
    const keep = this.heldFrames - drop;
    this.held.forEach((old, c) => {
      const joined = new Float32Array(keep + frames);
      joined.set(old.subarray(drop, this.heldFrames));
      joined.set(block[c]!, keep);
      this.held[c] = joined;
    });
    this.at -= drop;
    this.heldFrames = keep + frames;
  }

  private produce(count: number): Block {
    const { up, down } = this.line;
    const out = emptyChannels(this.held.length, count);
    const place = { at: this.at, phase: this.phase, up, down };
    out.forEach((channel, c) => {
      runPolyphase(this.bank, place, this.held[c]!.subarray(0, this.heldFrames), channel);
    });
    const { whole, phase } = this.moved(count);
    this.at += whole;
    this.phase = phase;
    return out;
  }

  private moved(count: number): { whole: number; phase: number } {
    const up = BigInt(this.line.up);
    const moved = BigInt(this.phase) + BigInt(count) * BigInt(this.line.down);
    return { whole: Number(moved / up), phase: Number(moved % up) };
  }
}

/** A stretch of output, and what it is read of. */
interface Reading extends Stretch {
  line: Line;
  /** Blocks of input from any frame on, which may lie in front of the sound; where they end is silence. */
  supply(from: number): AsyncIterable<Block>;
}

/** A stretch of what is read along a line, from any frame on. */
export function alongLine(
  channelCount: number,
  { line, supply, startFrame, endFrame }: Reading,
): Piece {
  const frames = Math.max(0, endFrame - startFrame);
  return {
    frames,
    async *from(skip) {
      const bank = filterBank(line.up, line.down);
      const reader = new Interpolator(line, bank, channelCount, startFrame + skip);
      let left = frames - skip;
      for await (const block of supply(reader.firstInput)) {
        const out = reader.push(block);
        const take = Math.min(left, blockFrames(out));
        yield* inBlocks(sliceBlock(out, 0, take));
        left -= take;
        if (left === 0) return;
      }
      yield* inBlocks(reader.finish(left));
    },
  };
}

/** A sound with silence in front of it. */
export async function* inFront(source: PcmSource, from: number): AsyncGenerator<Block> {
  yield* silentBlocks(source.channelCount, -from);
  yield* source.from(Math.max(0, Math.min(source.frames, from)));
}
