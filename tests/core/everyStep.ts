import type { Step } from '@/core/recipe/types';
import { step } from './files';

const loop = { startFrame: 300, endFrame: 900, introFrames: 0, tailFrames: 0 };

/** Every kind of step with parameters that fit a stereo sound of at least 2,000 frames. */
export const everyStep: Step[] = [
  step('keep', { startFrame: 100, endFrame: 1_900 }),
  step('cut', { startFrame: 200, endFrame: 700 }),
  step('cut', { startFrame: 200, endFrame: 700, crossfadeFrames: 64 }),
  step('blank', { startFrame: 10, endFrame: 600 }),
  step('silence', { atFrame: 333, frames: 500 }),
  step('pad', { headFrames: 100, tailFrames: 33 }),
  step('fade-in', { frames: 400, shape: 's' }),
  step('fade-out', { frames: 400, shape: 'equal-power' }),
  step('gain', { gainDb: -6 }),
  step('normalise', { to: 'peak', target: -3 }),
  step('normalise', { to: 'true-peak', target: -1 }),
  step('limit', { ceilingDbtp: -12, how: 'moments', releaseMs: 20 }),
  step('limit', { ceilingDbtp: -12, how: 'all' }),
  step('channels', { mode: 'swap' }),
  step('channels', { mode: 'mix' }),
  step('polarity'),
  step('offset'),
  step('reverse'),
  step('declick'),
  step('relabel', { rateHz: 11_025 }),
  step('speed', { factor: 1.25 }),
  step('resample', { rateHz: 12_000 }),
  step('loop', { startFrame: 300, endFrame: 900, introFrames: 200, tailFrames: 50 }),
  ...(['linear', 'equal-power', 'correlation'] as const).map((curve) =>
    step('loop', { ...loop, seam: 'crossfade', crossfadeFrames: 190, curve }),
  ),
  step('loop', { ...loop, tailFrames: 555, seam: 'tail', tailDb: -3 }),
  step('repeat', { startFrame: 300, endFrame: 900, times: 3 }),
  step('unroll', { startFrame: 300, endFrame: 900 }),
];
