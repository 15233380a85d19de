import type { Stretch } from '../../marks';
import type { Block } from '../../pcm/pcm';
import { emptyChannels, wholeRange, type PcmSource } from '../../pcm/source';

/** What lies on both sides of a seam as it plays: the same number of frames each. */
export interface Sides {
  rateHz: number;
  speakerMask?: number | undefined;
  /** Up to the last frame of the loop. */
  before: Block;
  /** From the first frame of the loop on. */
  behind: Block;
}

/** Reads so many frames on both sides of a loop's seam; a shorter loop is played around until they are full. */
export async function sidesOf(source: PcmSource, loop: Stretch, frames: number): Promise<Sides> {
  const { rateHz, speakerMask } = source;
  const { startFrame, endFrame } = loop;
  const length = endFrame - startFrame;
  if (length < frames) {
    const once = await wholeRange(source, startFrame, endFrame);
    const around = (from: number) =>
      once.map((channel) => {
        const out = new Float32Array(frames);
        for (let i = 0; i < frames; i++) out[i] = channel[(from + i) % length]!;
        return out;
      });
    // As many whole passes back as it takes.
    const back = Math.ceil(frames / length) * length;
    return { rateHz, speakerMask, before: around(back - frames), behind: around(0) };
  }
  const before = await wholeRange(source, endFrame - frames, endFrame);
  const behind = await wholeRange(source, startFrame, startFrame + frames);
  return { rateHz, speakerMask, before, behind };
}

/** Both sides one behind the other. */
export function joinedSides({ before, behind }: Sides): Float32Array[] {
  const frames = before[0]?.length ?? 0;
  const joined = emptyChannels(before.length, frames * 2);
  joined.forEach((channel, c) => {
    channel.set(before[c]!);
    channel.set(behind[c]!, frames);
  });
  return joined;
}
