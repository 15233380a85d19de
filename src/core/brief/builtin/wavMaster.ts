import type { BriefText } from '../schema';

/** What goes to people who work on: uncompressed, at the rate of picture and most engines. */
export const wavMaster: BriefText = {
  id: 'wav-master',
  version: 1,
  title: 'WAV master',
  purpose: 'A hand-over to somebody who goes on working with the sound.',
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
