import type { BriefText } from '../schema';

/** Stand-in for a toy with tens of kilobytes of memory and an 8-bit converter. */
export const pocketToy: BriefText = {
  id: 'pocket-toy',
  version: 3,
  title: 'Pocket toy',
  purpose: 'A gadget that plays short 8-bit sounds out of very little memory.',
  about:
    'Tinkerers with a toy ask for this: eight bits, one channel, and some tens of kilobytes that all its sounds share. ' +
    'What is larger than the free memory does not play at all. The usual mistake is to send what sounds good on a ' +
    'computer; the second, a long name with blanks that the toy cuts off.',
  suits: { places: ['gadget'], loops: false, rooms: ['tight'] },
  names: {
    pattern: '{prefix}{name}',
    case: 'lower',
    characters: 'a-z0-9_',
    joiner: '_',
    longest: 16,
  },
  tags: { keep: [] },
  files: [
    {
      id: 'wav',
      writer: 'wav',
      settings: { bits: 8 },
      sampleRatesHz: { from: 8_000, to: 11_025 },
      channels: [1],
      bitDepths: [8],
    },
  ],
  mostSeconds: 4,
  mostBytes: 44_200,
  mostTotalBytes: 61_440,
  layout: {
    texts: [
      { path: 'sounds.h', manifest: 'c-header', options: { withBytes: true }, encoding: 'ascii' },
    ],
  },
  notes: [
    'A file larger than the free memory does not play at all: keep it short.',
    'The toy lists its sounds by name: a prefix like “z_” moves one to the end.',
  ],
};
