import { BijouError } from '../errors';
import { blockFrames, type PcmStream } from '../pcm/pcm';
import type { PcmSource } from '../pcm/source';
import { ClickFinder, LONGEST_CLICK, type DeclickOptions } from './clickFinder';
import { ClickJudge } from './clickJudge';

/** One place that is to be mended, with what belongs there. */
export interface Click {
  channel: number;
  startFrame: number;
  samples: Float32Array;
}

export const declickDefaults: DeclickOptions = { threshold: 10 };

/** More than this in one sound are not clicks but the sound. */
const MOST_CLICKS = 100_000;

/**
 * Finds impulses that stand alone: what linear prediction does not foresee, what leaves nothing behind once it
 * is taken out, and what does not repeat like a wave. Each comes with samples interpolated from both sides.
 * @throws not-legal when there are so many that they cannot be clicks.
 */
export async function findClicks(pcm: PcmStream, options: DeclickOptions): Promise<Click[]> {
  const found: Click[] = [];
  const channels = Array.from({ length: pcm.channelCount }, (_, channel) => {
    const judge = new ClickJudge(pcm.rateHz, ({ startFrame, samples }) =>
      found.push({ channel, startFrame, samples }),
    );
    return { judge, finder: new ClickFinder(options, pcm.rateHz, judge) };
  });
  for await (const block of pcm.blocks) {
    block.forEach((channel, c) => channels[c]!.finder.push(channel));
    if (found.length > MOST_CLICKS) throw tooMany();
  }
  for (const { finder, judge } of channels) {
    finder.finish();
    judge.finish();
  }
  return found.sort((a, b) => a.startFrame - b.startFrame);
}

/** Puts in what was found to belong there; everything else passes bit for bit. `clicks` in order of time. */
export function mendClicks(source: PcmSource, clicks: readonly Click[]): PcmSource {
  if (clicks.length === 0) return source;
  return {
    ...source,
    gridBits: null,
    async *from(startFrame) {
      let at = startFrame;
      let next = 0;
      for await (const block of source.from(startFrame)) {
        const end = at + blockFrames(block);
        while (next < clicks.length && clicks[next]!.startFrame + LONGEST_CLICK <= at) next++;
        const out = [...block];
        for (let i = next; i < clicks.length && clicks[i]!.startFrame < end; i++) {
          const { channel, startFrame: first, samples } = clicks[i]!;
          if (out[channel] === block[channel]) out[channel] = block[channel]!.slice();
          samples.forEach((x, n) => {
            if (first + n >= at && first + n < end) out[channel]![first + n - at] = x;
          });
        }
        yield out;
        at = end;
      }
    },
  };
}

function tooMany(): BijouError {
  return new BijouError(
    'not-legal',
    'So much of this sound is sudden that clicks cannot be told from it.',
    'Raise the threshold, or take the step out.',
  );
}
