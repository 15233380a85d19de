import type { Loop } from '../../marks';
import { blockFrames, type Block } from '../../pcm/pcm';
import { emptyChannels, sourceFromChannels } from '../../pcm/source';
import { SHORTEST_LOOP } from '../limits';
import { seamFigures, sideFrames, sidesOf, type SeamFigures } from './index';

/** Measures the seam of a marked loop while its sound goes by: only what lies on both sides is kept. */
export class SeamMeter {
  private readonly start: Kept;
  private readonly end: Kept;
  private readonly isShort: boolean;
  private at = 0;

  constructor(
    private readonly shape: {
      rateHz: number;
      channelCount: number;
      speakerMask?: number | undefined;
    },
    private readonly loop: Loop,
  ) {
    const { startFrame, endFrame } = loop;
    const side = sideFrames(shape.rateHz);
    // Of a loop that is shorter than its sides all is kept, and played around.
    this.isShort = endFrame - startFrame < side;
    const first = this.isShort ? endFrame : startFrame + side;
    this.start = new Kept(shape.channelCount, startFrame, first);
    this.end = new Kept(shape.channelCount, this.isShort ? endFrame : endFrame - side, endFrame);
  }

  push(block: Block): void {
    this.start.push(block, this.at);
    this.end.push(block, this.at);
    this.at += blockFrames(block);
  }

  /** null for a loop that is none, or runs back and forth: that has no seam. */
  async result(): Promise<SeamFigures | null> {
    const { startFrame, endFrame, isBackAndForth } = this.loop;
    const length = endFrame - startFrame;
    if (isBackAndForth || length < SHORTEST_LOOP || endFrame > this.at) return null;
    const { rateHz, speakerMask } = this.shape;
    const [start, end] = [this.start.channels, this.end.channels];
    if (!this.isShort) return seamFigures({ rateHz, speakerMask, before: end, behind: start });
    const once = { ...sourceFromChannels(start, rateHz), speakerMask };
    const around = { startFrame: 0, endFrame: length };
    return seamFigures(await sidesOf(once, around, sideFrames(rateHz)));
  }
}

/** A stretch of what goes by. */
class Kept {
  readonly channels: Float32Array[];

  constructor(
    channelCount: number,
    private readonly from: number,
    private readonly to: number,
  ) {
    this.channels = emptyChannels(channelCount, to - from);
  }

  push(block: Block, at: number): void {
    const first = Math.max(this.from, at);
    const last = Math.min(this.to, at + blockFrames(block));
    if (first >= last) return;
    block.forEach((channel, c) => {
      this.channels[c]?.set(channel.subarray(first - at, last - at), first - this.from);
    });
  }
}
