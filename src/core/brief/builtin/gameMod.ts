import type { BriefText } from '../schema';

/** What the game reads first. */
const DESCRIPTOR = `{
  "title": "{{title}}",
  "edition": {{edition}},
  "author": "{{author}}",
  "icon": "{{icon}}",
  "calls": "calls.json"
}
`;

/** What people read who put it in. */
const READ_ME = `{{title}}, by {{author}}

Sounds for edition {{edition}} of the island. Put the zip into the folder for mods as it is: it is not unpacked.

{{#notes}}
- {{text}}
{{/notes}}
`;

/** Stand-in for a game that plays sounds of other people: strict about codec, names and folders. */
export const gameMod: BriefText = {
  id: 'game-mod',
  version: 3,
  title: 'Game mod',
  purpose: 'A game that takes other people’s sounds in the place of its own.',
  about:
    'Players who change a game’s sounds ask for this. The game looks for Vorbis inside Ogg, under the exact names of ' +
    'its own sounds, all in lower case. Anything else stays silent, and nothing says why. The usual mistakes are an ' +
    'MP3 that was renamed instead of converted, Opus inside the Ogg, and one capital letter.',
  suits: { places: ['game'], loops: true, rooms: ['some'] },
  mostSeconds: 600,
  loop: { marked: 'file' },
  names: { case: 'lower', characters: 'a-z0-9_-', joiner: '_', longest: 64 },
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
  layout: {
    slots: [
      { path: 'places/landing.ogg', title: 'the landing, heard from the boat' },
      { path: 'places/shore.ogg', title: 'the shore at low tide' },
      { path: 'places/house.ogg', title: 'the keepers’ house' },
      { path: 'places/gallery.ogg', title: 'the gallery in the wind' },
      { path: 'places/lamp_room.ogg', title: 'the lamp room' },
      { path: 'places/cave.ogg', title: 'the cave below the tower', isOptional: true },
    ],
    longestTitle: 60,
    fields: [
      {
        id: 'edition',
        title: 'Edition of the island',
        about: 'Has to be the one that the game is made for.',
        value: 3,
        oneOf: [2, 3],
      },
      { id: 'author', title: 'Author', value: 'unnamed', longest: 60 },
    ],
    icon: { path: 'icon.png', sizes: [128, 64, 256] },
    calls: { characters: 'a-z0-9_/-' },
    texts: [
      { path: 'isle.json', title: 'what the game reads first', is: 'json', template: DESCRIPTOR },
      { path: 'calls.json', manifest: 'calls' },
      { path: 'credits.txt', manifest: 'credits' },
      { path: 'read_me.txt', is: 'text', template: READ_ME },
    ],
  },
  host: 'mod',
  notes: [
    'One sound may be heard in several places: give it several slots.',
    'Opus in Ogg looks the same from outside and is refused.',
  ],
};
