import * as yup from 'yup';
import { blockFrames } from '@/core/pcm/pcm';
import { range } from '@/core/pcm/source';
import { frame } from './fields';
import { checkSpan, question, tooMany } from './question';

/** Samples for the player: one after the other for every frame. */
export interface Heard {
  rateHz: number;
  channels: number;
  samples: Float32Array;
}

/** Most frames that one request may ask for: a quarter of a minute at 192 kHz. */
const MOST_FRAMES = 3_000_000;
/** Most samples of all channels that one answer holds. */
const MOST_SAMPLES = 24_000_000;

/** Interleaved samples of the frames that there are in the span. */
export const pcm = question({
  told: yup.object({ start: frame(), frames: frame() }),
  check: ({ start, frames }) => checkSpan(start, frames, MOST_FRAMES),
  reach: ({ start, frames }) => start + frames,
  urgency: () => 0,
  async answer(source, told): Promise<Heard> {
    const { channelCount } = source;
    const start = Math.min(told.start, source.frames);
    const end = Math.min(source.frames, told.start + told.frames);
    const count = (end - start) * channelCount;
    if (count > MOST_SAMPLES) throw tooMany('samples', count);
    const woven = new Float32Array(count);
    let at = 0;
    for await (const block of range(source, start, end)) {
      block.forEach((channel, c) => {
        for (let i = 0, to = at + c; i < channel.length; i++, to += channelCount) {
          woven[to] = channel[i]!;
        }
      });
      at += blockFrames(block) * channelCount;
    }
    return { rateHz: source.rateHz, channels: channelCount, samples: woven };
  },
});
