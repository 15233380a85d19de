import type { BriefText } from '../schema';

/** Short sounds of a game that an engine places in its world. */
export const engineEffects: BriefText = {
  id: 'engine-effects',
  version: 2,
  title: 'Engine, short effects',
  purpose: 'A game engine that keeps short sounds in memory and places them in its world.',
  about:
    'Programmers of games ask for this: short sounds that start at once and come from a place. They have to be mono, ' +
    'for what is stereo cannot be placed, and lie unpacked, so that fifty of them can start together. The usual ' +
    'mistakes are stereo files, and the four bits of ADPCM for pure tones, where their noise is heard.',
  suits: { places: ['game'], loops: false, rooms: ['some', 'plenty'] },
  names: { pattern: '{group}_{name}', characters: 'A-Za-z0-9_-', joiner: '_' },
  files: [
    {
      id: 'wav',
      writer: 'wav',
      settings: {},
      alsoTakes: ['wav-ima-adpcm', 'ogg', 'mp3'],
      sampleRatesHz: { from: 22_050, to: 48_000 },
      channels: [1],
      bitDepths: [16],
    },
  ],
  layout: {
    texts: [
      { path: 'assets.json', manifest: 'asset-list' },
      { path: 'offsets.json', manifest: 'offsets' },
    ],
  },
  notes: [
    'The group stands in front of each name, so that lists keep together what belongs together.',
  ],
};
