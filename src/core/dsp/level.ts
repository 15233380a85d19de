import type { Block, PcmStream } from '../pcm/pcm';

/** A stream whose every sample goes through `change`, which gets the channel and the frame's place. */
export function mapSamples(
  pcm: PcmStream,
  change: (x: number, channel: number, frame: number) => number,
  gridBits: number | null = null,
): PcmStream {
  async function* blocks(): AsyncGenerator<Block> {
    let at = 0;
    for await (const block of pcm.blocks) {
      const from = at;
      yield block.map((channel, c) => {
        const out = new Float32Array(channel.length);
        for (let i = 0; i < out.length; i++) out[i] = change(channel[i]!, c, from + i);
        return out;
      });
      at += block[0]?.length ?? 0;
    }
  }
  return { ...pcm, gridBits, blocks: blocks() };
}

function amplitude(db: number): number {
  return 10 ** (db / 20);
}

export function gain(pcm: PcmStream, gainDb: number): PcmStream {
  if (gainDb === 0) return pcm;
  const factor = amplitude(gainDb);
  return mapSamples(pcm, (x) => x * factor);
}

/** Turns every sample's sign: exact, but for the most negative integer, which becomes full scale. */
export function invertPolarity(pcm: PcmStream): PcmStream {
  return mapSamples(pcm, (x) => -x, pcm.gridBits);
}

/** Takes each channel's own constant offset out. */
export function removeOffset(pcm: PcmStream, offsets: readonly number[]): PcmStream {
  if (offsets.every((offset) => offset === 0)) return pcm;
  return mapSamples(pcm, (x, channel) => x - (offsets[channel] ?? 0));
}

/** Mean of each channel. */
export async function measureOffsets(pcm: PcmStream): Promise<number[]> {
  const sums = new Array<number>(pcm.channelCount).fill(0);
  let frames = 0;
  for await (const block of pcm.blocks) {
    block.forEach((channel, c) => {
      let sum = 0;
      for (let i = 0; i < channel.length; i++) sum += channel[i]!;
      sums[c]! += sum;
    });
    frames += block[0]?.length ?? 0;
  }
  return sums.map((sum) => (frames > 0 ? sum / frames : 0));
}
