import type { Loop } from '../marks';
import type { Around, Block, PcmStream } from '../pcm/pcm';
import { emptyChannels, type PcmSource } from '../pcm/source';
import { sidesOf } from '../loop/seam/sides';

/**
 * What an encoder that looks `reach` frames beyond the ends of a sound is to find there: where a loop reaches to an end,
 * its other end. undefined where silence is right.
 */
export async function aroundLoop(
  source: PcmSource,
  loop: Loop | null,
  reach = 0,
): Promise<Around | undefined> {
  if (!loop || loop.isBackAndForth || reach === 0) return undefined;
  const { startFrame, endFrame } = loop;
  const nothing = emptyChannels(source.channelCount, 0);
  const [isFirst, isLast] = [startFrame === 0, endFrame === source.frames];
  if (!isFirst && !isLast) return undefined;
  const { before, behind } = await sidesOf(source, loop, reach);
  return { before: isFirst ? before : nothing, behind: isLast ? behind : nothing };
}

/** The last `frames` frames of what is in front of a sound: as much silence as is missing before them. */
export function leadIn({ around, channelCount }: PcmStream, frames: number): Block {
  const lead = emptyChannels(channelCount, frames);
  const before = around?.before ?? [];
  lead.forEach((channel, c) => {
    const known = before[c]?.subarray(-frames) ?? new Float32Array(0);
    channel.set(known, frames - known.length);
  });
  return lead;
}

/** What plays on behind a sound, at most `frames` frames of it. */
export function leadOut({ around }: PcmStream, frames: number): Block {
  return (around?.behind ?? []).map((channel) => channel.subarray(0, frames));
}
