import type { BriefText } from '../schema';

/** Stand-in for a console that plays one codec at one rate, with its loop inside the file. */
export const handheld: BriefText = {
  id: 'handheld',
  version: 3,
  title: 'Handheld console',
  purpose: 'A homebrew game on a small console that plays one kind of file.',
  about:
    'Makers of games for a small console of their own ask for this: it plays one codec at one rate, stereo, and finds ' +
    'its sounds by exact names in capital letters. A file of any other bit rate or name is passed over without a word. ' +
    'The usual mistakes are a small letter in a name and a mono file.',
  suits: { places: ['gadget', 'game'], loops: true, rooms: ['some'] },
  loop: { marked: 'file' },
  names: { case: 'upper', characters: 'A-Z0-9_', joiner: '_', longest: 16 },
  files: [
    {
      id: 'adpcm',
      writer: 'wav-ima-adpcm',
      settings: {},
      ending: 'WAV',
      sampleRatesHz: [44_100],
      channels: [2],
    },
  ],
  layout: {
    slots: [
      { path: 'TITLE.WAV', title: 'what is heard when it is switched on' },
      { path: 'SEA.WAV', title: 'what is heard on the water' },
      { path: 'STORM.WAV', title: 'what is heard in the storm', isOptional: true },
    ],
    others: 'refuse',
  },
  notes: [
    'Loop points travel inside the file; the console repeats between them.',
    'Four bits a sample add noise that pure tones do not hide.',
  ],
};
