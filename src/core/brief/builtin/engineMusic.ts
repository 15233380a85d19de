import type { BriefText } from '../schema';

/** Music and beds of a game, played from the disk and repeated. */
export const engineMusic: BriefText = {
  id: 'engine-music',
  version: 2,
  title: 'Engine, music and beds',
  purpose: 'A game engine that streams music and background sounds, and repeats them.',
  about:
    'Programmers of games ask for this: long pieces that play while people stay in one place, over and over. Vorbis ' +
    'repeats exactly, from the frame at which it ends; MP3 puts silence at both ends, and every repeat has a gap. The ' +
    'usual mistakes are MP3 for what loops, and a loop that nobody has listened to at its seam.',
  suits: { places: ['game'], loops: true, rooms: ['some'] },
  loop: { marked: 'file' },
  files: [
    {
      id: 'ogg',
      writer: 'ogg',
      settings: { quality: 6 },
      sampleRatesHz: [44_100, 48_000],
      channels: [2],
    },
  ],
  layout: {
    texts: [
      { path: 'music.json', manifest: 'music-map' },
      { path: 'credits.txt', manifest: 'credits' },
    ],
  },
  notes: ['Where a loop begins and ends stands in the file, in frames (LOOPSTART, LOOPLENGTH).'],
};
