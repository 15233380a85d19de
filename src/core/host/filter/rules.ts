import type { SoundDemands } from '../sounds';

/** What the stage plays, and nothing else. */
export const demands: SoundDemands = {
  container: 'mp4',
  codec: 'aac',
  ending: '.m4a',
  channels: [1],
  ratesHz: [44_100],
  mostSeconds: 120,
};
