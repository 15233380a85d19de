import { blockFrames, sliceBlock, type Block } from '../pcm/pcm';

/** Cuts a sequence of decoded blocks to the frames that are the sound: what codecs add goes. */
export class FrameWindow {
  /** Frames that came out of the decoder, kept or not. */
  decoded = 0;

  /** Drops `skip` frames, then passes `left` at most. */
  constructor(
    private skip: number,
    private left = Infinity,
  ) {}

  /** The part of the block that lies in the window; null when none does. */
  cut(block: Block): Block | null {
    const frames = blockFrames(block);
    this.decoded += frames;
    const from = Math.min(this.skip, frames);
    const to = Math.min(frames, from + this.left);
    this.skip -= from;
    this.left -= to - from;
    return to > from ? sliceBlock(block, from, to) : null;
  }

  /** Whether nothing that is still to come can lie in the window. */
  get isFull(): boolean {
    return this.left === 0;
  }

  /** Frames that were promised and have not come; 0 where nothing was promised. */
  get missing(): number {
    return this.left === Infinity ? 0 : this.left;
  }
}
