import type { BriefText } from '../schema';

/** Stand-in for a game that plays sounds of other people: strict about codec, names and folders. */
export const gameMod: BriefText = {
  id: 'game-mod',
  version: 1,
  title: 'Game mod',
  purpose: 'A game that takes other people’s sounds in the place of its own.',
  about:
    'Players who change a game’s sounds ask for this. The game looks for Vorbis inside Ogg, under the exact names of ' +
    'its own sounds, all in lower case. Anything else stays silent, and nothing says why. The usual mistakes are an ' +
    'MP3 that was renamed instead of converted, Opus inside the Ogg, and one capital letter.',
  suits: { places: ['game'], loops: true, rooms: ['some'] },
  loop: { marked: 'file' },
  names: { case: 'lower', characters: 'a-z0-9_', joiner: '_', longest: 64 },
  folder: '{group}',
  files: [
    {
      id: 'ogg',
      writer: 'ogg',
      settings: { quality: 5 },
      sampleRatesHz: [44_100, 48_000],
      channels: [2, 1],
    },
  ],
  notes: [
    'One sound may take the place of several: give it the name that the game has for each.',
    'Opus in Ogg looks the same from outside and is refused.',
  ],
};
