import type { BriefText } from '../schema';

/** What a composer gives out of hand: the master, and something to listen to. */
export const composerHandover: BriefText = {
  id: 'composer-handover',
  version: 2,
  title: 'Composer’s handover',
  purpose: 'Music that goes to the people who build it in, with a file to listen to beside it.',
  about:
    'Studios and musicians ask for this when a piece of music is done: a WAV that is exact to the frame, and an MP3 ' +
    'with the right tags that anybody can play on the way home. A piece that loops goes as intro, first pass and ' +
    'repeat; a tail that is missing on the repeat is heard at once. The usual mistake is to cut by ear.',
  suits: { places: ['people'], loops: true, rooms: ['plenty'] },
  files: [
    {
      id: 'wav',
      writer: 'wav',
      settings: {},
      sampleRatesHz: [48_000, 44_100],
      channels: [2],
      bitDepths: [24, 16],
    },
    {
      id: 'mp3',
      writer: 'mp3',
      settings: { kbps: 320 },
      sampleRatesHz: [48_000, 44_100],
      channels: [2],
      bitRatesKbps: [320],
      isConstant: true,
    },
  ],
  tags: { set: { title: '{name}' } },
  layout: {
    texts: [
      { path: 'cues.json', manifest: 'cue-sheet' },
      { path: 'cues.txt', manifest: 'cue-text' },
      { path: 'credits.txt', manifest: 'credits' },
    ],
  },
  notes: [
    'Intro, first pass, repeat and tail of a loop are made as sounds of their own in Shape, Loop.',
  ],
};
