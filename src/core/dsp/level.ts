import type { PcmSource } from '../pcm/source';

/** Frames from `start` up to, not including, `end`. */
interface Stretch {
  start: number;
  end: number;
}

/**
 * A source in which a stretch is changed in place: `change` gets copies of its samples, their channel,
 * and the frame that the first of them is. Everything outside is passed on as it is.
 */
export function changed(
  source: PcmSource,
  { start, end }: Stretch,
  change: (samples: Float32Array, channel: number, firstFrame: number) => void,
  gridBits: number | null = null,
): PcmSource {
  return {
    ...source,
    gridBits,
    async *from(startFrame) {
      let at = startFrame;
      for await (const block of source.from(startFrame)) {
        const frames = block[0]?.length ?? 0;
        const from = Math.max(0, start - at);
        const to = Math.min(frames, end - at);
        if (from >= to) yield block;
        else {
          const first = at + from;
          yield block.map((channel, c) => {
            const out = channel.slice();
            change(out.subarray(from, to), c, first);
            return out;
          });
        }
        at += frames;
      }
    },
  };
}

const everywhere: Stretch = { start: 0, end: Infinity };

function amplitude(db: number): number {
  return 10 ** (db / 20);
}

export function gain(source: PcmSource, gainDb: number): PcmSource {
  if (gainDb === 0) return source;
  const factor = amplitude(gainDb);
  return changed(source, everywhere, (samples) => {
    for (let i = 0; i < samples.length; i++) samples[i]! *= factor;
  });
}

/** Turns every sample's sign: exact, but for the most negative integer, which becomes full scale. */
export function invertPolarity(source: PcmSource): PcmSource {
  const turn = (samples: Float32Array) => {
    for (let i = 0; i < samples.length; i++) samples[i] = -samples[i]!;
  };
  return changed(source, everywhere, turn, source.gridBits);
}
