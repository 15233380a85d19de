import type { Brief } from '../schema';

/** Two files side by side, so that every browser finds one that it can play. */
export const webPage: Brief = {
  id: 'web-page',
  version: 1,
  title: 'Web page',
  purpose: 'A page that offers each sound twice, and the browser takes what it can play.',
  files: [
    {
      id: 'ogg',
      container: 'ogg',
      codec: 'vorbis',
      writer: 'ogg',
      settings: { quality: 5 },
      sampleRatesHz: [44_100, 48_000],
      channels: [2, 1],
      extension: 'ogg',
    },
    {
      id: 'mp3',
      container: 'mp3',
      codec: 'mp3',
      writer: 'mp3',
      settings: { kbps: 160 },
      sampleRatesHz: [44_100, 48_000],
      channels: [2, 1],
      extension: 'mp3',
    },
  ],
  notes: [
    'Put the Ogg source first; browsers take the first that they can play.',
    'Browsers block sound that starts by itself: start it from a click.',
  ],
};
