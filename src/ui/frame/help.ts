import { create } from 'zustand';

/** Whether the sheet of shortcuts is open. */
export const useHelp = create<{ open: boolean }>(() => ({ open: false }));

/** Every shortcut, by where it works. The sheet shows this list; the hooks that bind them are beside their screens. */
export const shortcuts: readonly {
  where: string;
  keys: readonly [keys: string, does: string][];
}[] = [
  {
    where: 'Everywhere',
    keys: [
      ['1 … 5', 'go to a station'],
      ['Space', 'play, or stop and stay there'],
      ['L', 'play around (loop) on or off'],
      ['V', 'hear the next version: source, shaped, finished files'],
      ['?', 'this sheet'],
    ],
  },
  {
    where: 'Collect',
    keys: [
      ['↑ ↓', 'choose the sound above or below'],
      ['Enter', 'shape the chosen sound'],
      ['Delete', 'take the chosen sound out (can be undone)'],
    ],
  },
  {
    where: 'Shape',
    keys: [
      ['+ −', 'closer, farther'],
      ['0', 'show the whole sound'],
      ['Home End', 'go to the start or the end'],
      ['[ ]', 'put the start or the end of the kept part at the playing position'],
      ['← →', 'with a handle in focus: move it by a frame; with Shift by ten milliseconds'],
    ],
  },
];
