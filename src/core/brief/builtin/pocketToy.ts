import type { BriefText } from '../schema';

/** Stand-in for a toy with tens of kilobytes of memory and an 8-bit converter. */
export const pocketToy: BriefText = {
  id: 'pocket-toy',
  version: 1,
  title: 'Pocket toy',
  purpose: 'A gadget that plays short 8-bit sounds out of very little memory.',
  files: [
    {
      id: 'wav',
      writer: 'wav',
      settings: { bits: 8 },
      sampleRatesHz: [11_025, 8_000],
      channels: [1],
      bitDepths: [8],
    },
  ],
  mostSeconds: 4,
  notes: ['A file larger than the free memory does not play at all: keep it short.'],
};
