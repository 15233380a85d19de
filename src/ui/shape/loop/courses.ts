import type { LoopParts } from '@/core/loop/parts';
import type { Course } from '@/player/course';

/** What can be heard of a loop. */
export const hearings = {
  seam: {
    name: 'Around the seam',
    tip: 'From two seconds before the seam to two seconds behind it, again and again',
  },
  whole: { name: 'The whole loop', tip: 'Round and round, as a player will' },
  through: {
    name: 'Intro, then loop',
    tip: 'The intro and the first pass once, then the repeats for ever',
  },
} as const;

export type Hearing = keyof typeof hearings;

const AROUND_SECONDS = 2;

/** The stretches of the made loop that are played, in its frames. */
export function courseFor(hearing: Hearing, parts: LoopParts, rateHz: number): Course {
  const { intro, first, repeat } = parts;
  const { startFrame: start, endFrame: end } = repeat;
  if (hearing === 'seam') {
    const reach = Math.min(end - start, AROUND_SECONDS * rateHz);
    return {
      once: [],
      around: [
        { start: end - reach, end },
        { start, end: start + reach },
      ],
    };
  }
  const around = [{ start, end }];
  if (hearing === 'whole') return { once: [], around };
  const begin = (intro ?? first).startFrame;
  return { once: begin < start ? [{ start: begin, end: start }] : [], around };
}
