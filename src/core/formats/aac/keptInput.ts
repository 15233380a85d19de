import { blockFrames, type Block } from '../../pcm/pcm';
import { emptyChannels } from '../../pcm/source';

/** What an encoder was given, as long as it may be wanted again. */
export class KeptInput {
  private blocks: Block[] = [];
  private start = 0;
  private end = 0;

  constructor(private readonly channelCount: number) {}

  /** Keeps blocks while they pass. */
  async *through(blocks: AsyncIterable<Block> | Iterable<Block>): AsyncGenerator<Block> {
    for await (const block of blocks) {
      const kept = block.map((channel) => channel.slice());
      this.blocks.push(kept);
      this.end += blockFrames(kept);
      yield kept;
    }
  }

  /** A stretch of it, with silence where nothing is. */
  cut(from: number, to: number): Float32Array[] {
    const out = emptyChannels(this.channelCount, to - from);
    let at = this.start;
    for (const block of this.blocks) {
      const end = at + blockFrames(block);
      const [first, last] = [Math.max(from, at), Math.min(to, end)];
      if (first < last) {
        const place = at;
        out.forEach((channel, c) =>
          channel.set(block[c]!.subarray(first - place, last - place), first - from),
        );
      }
      at = end;
    }
    return out;
  }

  /** Lets go of blocks that end before a frame. */
  forget(frame: number): void {
    while (this.blocks.length > 0 && this.start + blockFrames(this.blocks[0]!) <= frame) {
      this.start += blockFrames(this.blocks.shift()!);
    }
  }
}
