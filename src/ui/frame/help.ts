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
      ['Ctrl+Z Ctrl+Y', 'undo, do again'],
      ['Ctrl+V', 'bring in files that were copied'],
      ['?', 'this sheet'],
    ],
  },
  {
    where: 'Collect',
    keys: [
      ['↑ ↓', 'choose the sound above or below; with Shift more of them'],
      ['Home End', 'choose the first or the last'],
      ['Ctrl+A Ctrl+I', 'choose all that are listed; invert the choice'],
      ['Esc', 'choose none'],
      ['H', 'hear each sound as soon as it is chosen, on or off'],
      ['/', 'search'],
      ['F2', 'rename the chosen sounds'],
      ['B', 'where the bytes are'],
      ['Enter', 'shape the chosen sound'],
      ['Delete', 'take the chosen sounds out (can be undone)'],
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
