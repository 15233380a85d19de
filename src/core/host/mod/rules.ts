import type { SoundDemands } from '../sounds';

/** What the island reads first. */
export const DESCRIPTOR = 'isle.json';

/** What it plays. */
export const demands: SoundDemands = {
  container: 'ogg',
  codec: 'vorbis',
  ending: '.ogg',
  channels: [1, 2],
  ratesHz: [44_100, 48_000],
  mostSeconds: 600,
};

export const iconSizes = [128, 64, 256];
export const spelling = {
  case: 'lower',
  characters: 'a-z0-9_-',
  joiner: '_',
  longest: 64,
} as const;
