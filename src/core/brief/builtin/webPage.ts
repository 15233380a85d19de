import type { BriefText } from '../schema';

/** Two files side by side, so that every browser finds one that it can play. */
export const webPage: BriefText = {
  id: 'web-page',
  version: 3,
  title: 'Web page',
  purpose: 'A page that offers each sound twice, and the browser takes what it can play.',
  about:
    'People who build web pages ask for this: one sound, offered in two forms, so that every browser finds one that ' +
    'it plays. With one form alone some visitors hear nothing. The usual mistakes are to link the large WAV that lies ' +
    'beside it, and to let sound start by itself, which browsers block.',
  suits: { places: ['page'], loops: false, rooms: ['some'] },
  files: [
    {
      id: 'ogg',
      writer: 'ogg',
      settings: { quality: 5 },
      sampleRatesHz: [44_100, 48_000],
      channels: [2, 1],
    },
    {
      id: 'mp3',
      writer: 'mp3',
      settings: { kbps: 160 },
      sampleRatesHz: [44_100, 48_000],
      channels: [2, 1],
    },
  ],
  layout: { texts: [{ path: 'assets.json', manifest: 'asset-list' }] },
  notes: [
    'Put the Ogg source first; browsers take the first that they can play.',
    'Browsers block sound that starts by itself: start it from a click.',
  ],
};
