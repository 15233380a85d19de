import type { ProjectState } from '@/wire';

export interface Station {
  path: string;
  name: string;
  /** What the station is for, in a few words. */
  purpose: string;
  /** Its count, and what the count counts; `isLeast` while there are sounds that are not counted yet. */
  count(state: ProjectState): { value: number; of: string; isLeast: boolean };
}

/** The five stations, in the order of the work; the number keys go to them. */
export const stations: readonly Station[] = [
  {
    path: 'collect',
    name: 'Collect',
    purpose: 'bring sounds in and see what they are',
    count: ({ sounds, rest }) => ({
      value: sounds.filter((sound) => sound.state !== 'refused').length,
      of: 'sounds',
      isLeast: rest !== null,
    }),
  },
  {
    path: 'shape',
    name: 'Shape',
    purpose: 'cut, level, repair and join',
    count: ({ sounds, rest }) => ({
      value: sounds.filter(({ worries }) => worries.some(({ state }) => state === 'open')).length,
      of: 'sounds with a worry',
      isLeast: rest !== null,
    }),
  },
  {
    path: 'compare',
    name: 'Compare',
    purpose: 'weigh codecs against each other',
    count: ({ trials }) => ({ value: trials.count, of: 'trials', isLeast: false }),
  },
  {
    path: 'pack',
    name: 'Pack',
    purpose: 'build what destinations take',
    count: ({ cells, rest }) => ({
      value: cells.reduce((sum, { missing }) => sum + missing, 0),
      of: 'files to build',
      isLeast: rest !== null,
    }),
  },
  {
    path: 'rehearse',
    name: 'Rehearse',
    purpose: 'hear the packs in place',
    count: ({ packs }) => ({ value: packs.count, of: 'packs', isLeast: false }),
  },
];
