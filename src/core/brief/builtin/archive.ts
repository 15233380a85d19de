import type { BriefText } from '../schema';

/** What is kept for good: lossless, at the rate it came in. */
export const archive: BriefText = {
  id: 'archive',
  version: 1,
  title: 'Archive',
  purpose: 'A shelf where originals are kept, smaller and not a bit worse.',
  files: [
    {
      id: 'flac',
      writer: 'flac',
      settings: { bits: 24, level: 5 },
      sampleRatesHz: [
        48_000, 44_100, 96_000, 88_200, 192_000, 32_000, 22_050, 16_000, 11_025, 8_000,
      ],
      channels: [2, 1, 6, 3, 4, 5, 7, 8],
      bitDepths: [24],
    },
  ],
  notes: [
    'Whatever was lost before it came here stays lost: keep the original, not a copy of an MP3.',
  ],
};
