import type { BriefText } from '../schema';

/** What goes to people who work on: uncompressed, at the rate of picture and most engines. */
export const wavMaster: BriefText = {
  id: 'wav-master',
  version: 2,
  title: 'WAV master',
  purpose: 'A hand-over to somebody who goes on working with the sound.',
  about:
    'Whoever goes on working with a sound asks for this: an editor of pictures, a programmer, another studio. ' +
    'A lossy file would lose again with every save, and another rate would be converted by whoever is last. The usual ' +
    'mistake is to make a WAV of an MP3: it is larger and no better.',
  suits: { places: ['people', 'game'], loops: true, rooms: ['plenty'] },
  files: [
    {
      id: 'wav',
      writer: 'wav',
      settings: { bits: 24 },
      sampleRatesHz: [48_000],
      channels: [2, 1],
      bitDepths: [24],
    },
  ],
  notes: ['A WAV made from an MP3 is larger and no better: start from the best original there is.'],
};
