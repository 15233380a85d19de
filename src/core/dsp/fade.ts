import type { PcmStream } from '../pcm/pcm';
import { mapSamples } from './level';

/** How a fade-in rises: from 0 at 0 to 1 at 1. A fade-out is the same, read from its end. */
export const fadeShapes = {
  linear: { name: 'linear', rise: (t: number) => t },
  'equal-power': { name: 'equal power', rise: (t: number) => Math.sin((Math.PI / 2) * t) },
  exponential: {
    name: 'exponential',
    // 60 dB from end to end, drawn down so that it begins at 0.
    rise: (t: number) => (Math.exp(SIXTY_DB * t) - 1) / (Math.exp(SIXTY_DB) - 1),
  },
  s: { name: 'S', rise: (t: number) => (1 - Math.cos(Math.PI * t)) / 2 },
} as const;

const SIXTY_DB = Math.log(1000);
/** Silence is +0: a negative sample times 0 would be −0, which is other bytes in a float file. */
const PLUS_ZERO = 0;

export type FadeShape = keyof typeof fadeShapes;

/** The first frame is exactly 0; the first frame behind the fade is untouched. */
export function fadeIn(pcm: PcmStream, frames: number, shape: FadeShape): PcmStream {
  const { rise } = fadeShapes[shape];
  return mapSamples(pcm, (x, _, at) => (at >= frames ? x : x * rise(at / frames) + PLUS_ZERO));
}

/** The last frame, number `total` − 1, is exactly 0. */
export function fadeOut(
  pcm: PcmStream,
  total: number,
  frames: number,
  shape: FadeShape,
): PcmStream {
  const { rise } = fadeShapes[shape];
  const start = total - frames;
  return mapSamples(pcm, (x, _, at) =>
    at < start ? x : x * rise((total - 1 - at) / frames) + PLUS_ZERO,
  );
}
