import type { PcmSource } from '../pcm/source';
import { changed } from './level';

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

/** How loud frame `at` of a fade-in over `frames` frames is left: the first is exactly 0. */
export function fadeInGain(at: number, frames: number, shape: FadeShape): number {
  return at >= frames ? 1 : fadeShapes[shape].rise(at / frames);
}

/** How loud frame `at` of `total` is left by a fade-out: the last, number `total` − 1, is exactly 0. */
export function fadeOutGain(at: number, total: number, frames: number, shape: FadeShape): number {
  return at < total - frames ? 1 : fadeShapes[shape].rise((total - 1 - at) / frames);
}

export function fadeIn(source: PcmSource, frames: number, shape: FadeShape): PcmSource {
  return faded(source, { start: 0, end: frames }, (at) => fadeInGain(at, frames, shape));
}

export function fadeOut(source: PcmSource, frames: number, shape: FadeShape): PcmSource {
  const { frames: total } = source;
  return faded(source, { start: total - frames, end: total }, (at) =>
    fadeOutGain(at, total, frames, shape),
  );
}

function faded(
  source: PcmSource,
  span: { start: number; end: number },
  gain: (frame: number) => number,
): PcmSource {
  return changed(source, span, (samples, _, first) => {
    for (let i = 0; i < samples.length; i++) {
      samples[i] = samples[i]! * gain(first + i) + PLUS_ZERO;
    }
  });
}
