import { create } from 'zustand';

/** Whether the sheet of shortcuts is open. */
export const useHelp = create<{ open: boolean }>(() => ({ open: false }));

/** Keys of one kind, at one station. */
export interface ShortcutGroup {
  /** Path of the station; null for everywhere. */
  station: string | null;
  /** Only at this bench of the station, in place of what the same keys do elsewhere. */
  bench?: 'loop';
  where: string;
  keys: readonly [keys: string, does: string][];
}

/** Every shortcut, by where it works. The sheet shows this list; the hooks that bind them are beside their screens. */
export const shortcuts: readonly ShortcutGroup[] = [
  {
    station: null,
    where: 'Everywhere',
    keys: [
      ['1 … 5', 'go to a station'],
      ['Space', 'play, or stop and stay there'],
      ['L', 'play around (loop) on or off'],
      ['V', 'hear the next version: source, shaped, finished files'],
      ['M', 'all versions at the same loudness, on or off'],
      ['Ctrl+Z Ctrl+Y', 'undo, do again'],
      ['Ctrl+V', 'bring in files that were copied'],
      ['?', 'this sheet'],
    ],
  },
  {
    station: 'collect',
    where: 'Collect',
    keys: [
      ['↑ ↓', 'choose the sound above or below; with Shift more of them'],
      ['Home End', 'choose the first or the last'],
      ['Ctrl+A Ctrl+I', 'choose all that are listed; invert the choice'],
      ['Esc', 'choose none'],
      ['H', 'hear each sound as soon as it is chosen, on or off'],
      ['/', 'search; from there Enter or ↓ goes on to the list'],
      ['F2', 'rename the chosen sounds'],
      ['G T N', 'put them in a group; label them; note something on them'],
      ['W', 'what to do about their worries'],
      ['Z', 'convert them; with none chosen, files that you drop'],
      ['E', 'send them to destinations'],
      ['B', 'where the bytes are'],
      ['Enter', 'shape the chosen sound'],
      ['S O J', 'shape all chosen sounds; make their loops; join them'],
      ['Delete', 'take the chosen sounds out (can be undone)'],
    ],
  },
  {
    station: 'shape',
    where: 'Shape: look',
    keys: [
      ['+ −', 'closer, farther'],
      ['0 9', 'show the whole sound; the marked part'],
      ['Shift+← Shift+→', 'move the picture sideways'],
      ['T', 'show the source or the shaped sound'],
      ['G', 'spectrogram on or off'],
      ['Y', 'heights linear or in dB'],
      ['R', 'ruler in time, frames, or bars and beats'],
      ['PgUp PgDn', 'the sound before or after this one'],
      ['Shift+L', 'its loop, or its parts'],
    ],
  },
  {
    station: 'shape',
    where: 'Shape: find the part',
    keys: [
      ['← →', 'move the playing position a little'],
      ['Home End', 'go to the start or the end'],
      [', .', 'to the silence edge before or behind'],
      ['J', 'type where the mark is: 10, or 10-25.5 for both ends'],
      ['Q W', 'nudge the start earlier, later'],
      ['O P', 'nudge the end earlier, later'],
      ['Shift+Q Shift+P', 'put the start, the end of the mark here'],
      ['U', 'how far a nudge goes: frame, millisecond, zero crossing'],
      ['C', 'ends of the mark go to zero crossings, on or off'],
      ['N', 'only what sounds'],
      ['Ctrl+A Esc', 'mark everything; mark nothing'],
      ['Shift+Space', 'play the marked part'],
      ['S D', 'hear two seconds around its start; its end'],
    ],
  },
  {
    station: 'shape',
    where: 'Shape: change it',
    keys: [
      ['Enter', 'keep only the marked part'],
      ['X B I', 'cut it out; blank it; insert silence in front'],
      ['F', 'fade in to its end'],
      ['Shift+F', 'fade out from its start'],
      ['A', 'add any step'],
      ['K', 'use a saved recipe; with Shift save this one'],
      ['Shift+C Shift+V', 'copy the steps; put copied steps behind these'],
      ['Shift+S Shift+D', 'split into its channels; copy the sound'],
      ['H', 'the history of this sound'],
      ['Z', 'convert it, without a destination'],
      ['E', 'send it to destinations'],
      ['Ctrl+Z Ctrl+Y', 'undo, do again: of this sound alone'],
    ],
  },
  {
    station: 'shape',
    bench: 'loop',
    where: 'Shape: loop',
    keys: [
      ['S', 'hear around the seam, or stop'],
      ['D', 'hear the whole loop'],
      ['I', 'hear the intro, then the loop'],
      ['[ ]', 'the lens narrower, wider'],
      ['X F B', 'cut hard; crossfade; wrap the tail'],
    ],
  },
  {
    station: 'compare',
    where: 'Compare',
    keys: [
      ['N', 'try other candidates'],
      ['Space', 'beside each other: hear the stretch around, or stop'],
      ['V D', 'hear the other side; the difference alone'],
      ['← →', 'to the worst moment before or behind'],
      ['↑ ↓', 'the candidate before or after this one'],
    ],
  },
  {
    station: 'pack',
    where: 'Pack',
    keys: [
      ['B', 'build everything that can be built'],
      ['C', 'build what is marked, or the cell that one is at'],
      ['H', 'hear the finished files, one after the other'],
      ['D', 'download everything that is finished, as a zip'],
      ['P', 'make the pack, in Layout'],
    ],
  },
  {
    station: 'pack',
    where: 'Pack: matrix',
    keys: [
      ['↑ ↓ ← →', 'go from cell to cell; with Shift mark on the way'],
      ['Enter Esc', 'open the cell; close it, or mark nothing'],
      ['A', 'send there what is marked, or no more'],
      ['X', 'mark the cell, or no more'],
      ['Ctrl+A', 'mark every cell that is listed'],
      ['Home End', 'go to the first or the last sound'],
      ['/', 'search sounds'],
    ],
  },
  {
    station: 'rehearse',
    where: 'Rehearse',
    keys: [
      ['Space', 'everything in the host is silent'],
      ['P', 'hear it through the loudspeaker of a phone, or not'],
      ['W', 'why something is missing, where the host keeps silent'],
    ],
  },
  {
    station: 'rehearse',
    where: 'Rehearse: filter stage',
    keys: [
      ['T', 'tap; the first tap wakes the sound'],
      ['O', 'open the filter anew'],
      ['A B H', 'the mouth opens; a blink; a hand is seen'],
      ['R', 'record a take, or end it'],
      ['← → Delete', 'on the timeline: move what is chosen; take it out'],
    ],
  },
  {
    station: 'rehearse',
    where: 'Rehearse: mod island',
    keys: [
      ['← →', 'walk to the place before or behind'],
      ['N', 'on to the turn of the tide; once more, and it turns'],
      ['/ Enter', 'a call by its id; play it'],
    ],
  },
];

/**
 * The shortcuts in which all typed words come up, those of the present station first, then what works everywhere.
 */
export function shortcutsFor(station: string | null, search: string): ShortcutGroup[] {
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const rank = (group: ShortcutGroup) =>
    group.station === station ? 0 : group.station === null ? 1 : 2;
  return [...shortcuts]
    .sort((a, b) => rank(a) - rank(b))
    .map((group) => ({
      ...group,
      keys: group.keys.filter(([keys, does]) => {
        const text = `${keys} ${does} ${group.where}`.toLowerCase();
        return words.every((word) => text.includes(word));
      }),
    }))
    .filter(({ keys }) => keys.length > 0);
}
