import type { BriefText } from '../schema';

/** The smallest files that today's browsers play, and one for those that do not. */
export const webStream: BriefText = {
  id: 'web-stream',
  version: 1,
  title: 'Web page, smallest',
  purpose: 'A page for which every kilobyte counts: Opus first, AAC for browsers without it.',
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
