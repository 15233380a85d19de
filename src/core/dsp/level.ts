import type { PcmStream } from '../pcm/pcm';
import type { PcmSource } from '../pcm/source';

/** A source whose every sample goes through `change`, which gets the channel and the frame's place. */
export function mapSamples(
  source: PcmSource,
  change: (x: number, channel: number, frame: number) => number,
  gridBits: number | null = null,
): PcmSource {
  return {
    ...source,
    gridBits,
    async *from(startFrame) {
      let at = startFrame;
      for await (const block of source.from(startFrame)) {
        const first = at;
        yield block.map((channel, c) => {
          const out = new Float32Array(channel.length);
          for (let i = 0; i < out.length; i++) out[i] = change(channel[i]!, c, first + i);
          return out;
        });
        at += block[0]?.length ?? 0;
      }
    },
  };
}

function amplitude(db: number): number {
  return 10 ** (db / 20);
}

export function gain(source: PcmSource, gainDb: number): PcmSource {
  if (gainDb === 0) return source;
  const factor = amplitude(gainDb);
  return mapSamples(source, (x) => x * factor);
}

/** Turns every sample's sign: exact, but for the most negative integer, which becomes full scale. */
export function invertPolarity(source: PcmSource): PcmSource {
  return mapSamples(source, (x) => -x, source.gridBits);
}

/** Takes each channel's own constant offset out. */
export function removeOffset(source: PcmSource, offsets: readonly number[]): PcmSource {
  if (offsets.every((offset) => offset === 0)) return source;
  return mapSamples(source, (x, channel) => x - (offsets[channel] ?? 0));
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
