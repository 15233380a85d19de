import type { BriefText } from '../schema';

/** What is kept for good: lossless, at the rate it came in. */
export const archive: BriefText = {
  id: 'archive',
  version: 3,
  title: 'Archive',
  purpose: 'A shelf where originals are kept, smaller and not a bit worse.',
  about:
    'You ask for this yourself, in ten years: everything as it came, at its own rate and with all its channels, ' +
    'smaller by a half and not a bit worse. What is lost before it is put away is lost for good. The usual mistake is ' +
    'to keep the copy that went to the web page, and not the original.',
  suits: { places: ['people'], loops: true, rooms: ['some'] },
  files: [
    {
      id: 'flac',
      writer: 'flac',
      settings: { bits: 24, level: 5 },
      bitDepths: [24],
    },
  ],
  folder: '{group}',
  layout: {
    texts: [
      { path: 'assets.json', manifest: 'asset-list' },
      { path: 'credits.txt', manifest: 'credits' },
    ],
  },
  notes: [
    'Whatever was lost before it came here stays lost: keep the original, not a copy of an MP3.',
  ],
};
