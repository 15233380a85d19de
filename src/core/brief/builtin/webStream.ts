import type { BriefText } from '../schema';

/** The smallest files that today's browsers play, and one for those that do not. */
export const webStream: BriefText = {
  id: 'web-stream',
  version: 2,
  title: 'Web page, smallest',
  purpose: 'A page for which every kilobyte counts: Opus first, AAC for browsers without it.',
  about:
    'Pages on slow lines ask for this, where each visitor pays for every kilobyte. Opus keeps more of a sound in the ' +
    'same room than anything older; AAC stands beside it for browsers without. Too large a file makes people leave ' +
    'before they hear it. The usual mistake is to encode what was an MP3 before: it loses twice.',
  suits: { places: ['page'], loops: false, rooms: ['tight'] },
  files: [
    {
      id: 'webm',
      writer: 'webm',
      settings: { kbps: 64 },
      sampleRatesHz: [48_000],
      channels: [2, 1],
    },
    {
      id: 'm4a',
      writer: 'm4a',
      settings: { kbps: 96 },
      sampleRatesHz: [44_100, 48_000],
      channels: [2, 1],
    },
  ],
  notes: ['Put the WebM source first; browsers take the first that they can play.'],
};
