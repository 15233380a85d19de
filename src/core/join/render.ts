import { BLOCK_FRAMES, blockFrames, sliceBlock, type Block, type PcmStream } from '../pcm/pcm';
import { emptyChannels, type PcmSource } from '../pcm/source';
import type { Shape } from '../recipe/types';
import type { Join, PlacedPart } from './plan';

/** A conformed part in its place. */
export interface JoinedPart extends Pick<
  PlacedPart,
  'startFrame' | 'frames' | 'sharedBefore' | 'sharedBehind'
> {
  /** Opened when its turn comes: hundreds of files are not open at a time. */
  open(): Promise<{ source: PcmSource; close(): Promise<void> }>;
}

/** Sounds one behind the other, each at its frame; what overlaps is added, faded as the join says. */
export function joined(
  parts: readonly JoinedPart[],
  { rateHz, channelCount, frames, speakerMask }: Shape,
  overlap: Join['overlap'],
): PcmStream {
  async function* blocks(): AsyncGenerator<Block> {
    const waiting = [...parts];
    const playing = new Set<Voice>();
    try {
      for (let at = 0; at < frames; at += BLOCK_FRAMES) {
        const end = Math.min(frames, at + BLOCK_FRAMES);
        while (waiting[0] && waiting[0].startFrame < end) {
          playing.add(await Voice.begin(waiting.shift()!, overlap));
        }
        const out = emptyChannels(channelCount, end - at);
        for (const voice of playing) {
          await voice.addTo(out, at);
          if (voice.part.startFrame + voice.part.frames > end) continue;
          await voice.close();
          playing.delete(voice);
        }
        yield out;
      }
    } finally {
      for (const voice of playing) await voice.close();
    }
  }
  return { rateHz, channelCount, frames, speakerMask, gridBits: null, blocks: blocks() };
}

/** One part while it sounds. */
class Voice {
  private held: Block = [];
  private done = 0;

  private constructor(
    readonly part: JoinedPart,
    private readonly blocks: AsyncIterator<Block>,
    private readonly overlap: Join['overlap'],
    readonly close: () => Promise<void>,
  ) {}

  static async begin(part: JoinedPart, overlap: Join['overlap']): Promise<Voice> {
    const { source, close } = await part.open();
    return new Voice(part, source.from(0)[Symbol.asyncIterator](), overlap, close);
  }

  /** Adds what falls into a block that begins at frame `at` of the whole. */
  async addTo(out: readonly Float32Array[], at: number): Promise<void> {
    const frames = out[0]?.length ?? 0;
    let place = Math.max(0, this.part.startFrame - at);
    while (place < frames && this.done < this.part.frames) {
      if (blockFrames(this.held) === 0) {
        const { value, done } = await this.blocks.next();
        if (done) throw new Error('a part of a join ended before its end');
        this.held = value;
      }
      const take = Math.min(frames - place, blockFrames(this.held), this.part.frames - this.done);
      this.held.forEach((channel, c) => {
        const target = out[c]!;
        for (let i = 0; i < take; i++) target[place + i]! += channel[i]! * this.gain(this.done + i);
      });
      this.held = sliceBlock(this.held, take, blockFrames(this.held));
      this.done += take;
      place += take;
    }
  }

  /** Equal power on both sides, so that unlike sounds keep their loudness. */
  private gain(frame: number): number {
    if (this.overlap === 'mix') return 1;
    const { sharedBefore, sharedBehind, frames } = this.part;
    if (frame < sharedBefore) return Math.sin((Math.PI / 2) * ((frame + 0.5) / sharedBefore));
    const left = frames - frame;
    return left <= sharedBehind ? Math.sin((Math.PI / 2) * ((left - 0.5) / sharedBehind)) : 1;
  }
}
