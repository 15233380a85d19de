import type { Column } from '@/core/measure/pyramid';
import { blockFrames } from '@/core/pcm/pcm';
import { range, type PcmSource } from '@/core/pcm/source';

/** Columns as they travel: channel by channel, `min, max, rms` for each. */
export function packColumns(channels: readonly (readonly Column[])[]): Float32Array {
  const count = channels[0]?.length ?? 0;
  const packed = new Float32Array(channels.length * count * 3);
  channels.forEach((columns, c) =>
    columns.forEach(({ min, max, rms }, i) => packed.set([min, max, rms], (c * count + i) * 3)),
  );
  return packed;
}

/** Columns of fewer frames than the pyramid tells apart, from the samples. Behind the end is silence. */
export async function closeColumns(
  source: PcmSource,
  startFrame: number,
  endFrame: number,
  count: number,
): Promise<Float32Array> {
  const perColumn = (endFrame - startFrame) / count;
  const start = Math.min(startFrame, source.frames);
  const end = Math.min(endFrame, source.frames);
  const sums = Array.from({ length: source.channelCount }, () =>
    Array.from({ length: count }, () => ({ min: Infinity, max: -Infinity, square: 0, frames: 0 })),
  );
  let at = start;
  for await (const block of range(source, start, end)) {
    block.forEach((channel, c) => {
      for (let i = 0; i < channel.length; i++) {
        const column = Math.min(count - 1, Math.floor((at + i - startFrame) / perColumn));
        const sum = sums[c]![column]!;
        const x = channel[i]!;
        if (x < sum.min) sum.min = x;
        if (x > sum.max) sum.max = x;
        sum.square += x * x;
        sum.frames++;
      }
    });
    at += blockFrames(block);
  }
  return packColumns(
    sums.map((channel) =>
      channel.map(({ min, max, square, frames }) =>
        frames > 0 ? { min, max, rms: Math.sqrt(square / frames) } : { min: 0, max: 0, rms: 0 },
      ),
    ),
  );
}
