import type { BriefText } from '../schema';

/** Stand-in for a console that plays one codec at one rate, with its loop inside the file. */
export const handheld: BriefText = {
  id: 'handheld',
  version: 1,
  title: 'Handheld console',
  purpose: 'A homebrew game on a small console that plays one kind of file.',
  files: [
    {
      id: 'adpcm',
      writer: 'wav-ima-adpcm',
      settings: {},
      sampleRatesHz: [44_100],
      channels: [2],
    },
  ],
  notes: [
    'Loop points travel inside the file; the console repeats between them.',
    'Four bits a sample add noise that pure tones do not hide.',
  ],
};
