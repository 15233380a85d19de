import type { ProjectState } from '@/wire';

export interface Station {
  path: string;
  name: string;
  /** What the station is for, in a few words. */
  purpose: string;
  /** Its count, and what the count counts. */
  count(state: ProjectState): { value: number; of: string };
  /** It counts sounds or what hangs on them: while they are loaded, there are at least so many. */
  countsSounds: boolean;
}

/** The five stations, in the order of the work; the number keys go to them. */
export const stations: readonly Station[] = [
  {
    path: 'collect',
    name: 'Collect',
    purpose: 'bring sounds in and see what they are',
    count: ({ sounds }) => ({
      value: sounds.filter((sound) => sound.state !== 'refused').length,
      of: 'sounds',
    }),
    countsSounds: true,
  },
  {
    path: 'shape',
    name: 'Shape',
    purpose: 'cut, level, repair and join',
    count: ({ sounds }) => ({
      value: sounds.filter(({ worries }) => worries.some(({ state }) => state === 'open')).length,
      of: 'sounds with a worry',
    }),
    countsSounds: true,
  },
  {
    path: 'compare',
    name: 'Compare',
    purpose: 'weigh codecs against each other',
    count: ({ trials }) => ({ value: trials.count, of: 'trials' }),
    countsSounds: false,
  },
  {
    path: 'pack',
    name: 'Pack',
    purpose: 'build what destinations take',
    count: ({ cells }) => ({
      value: cells.reduce((sum, { missing }) => sum + missing, 0),
      of: 'files to build',
    }),
    countsSounds: true,
  },
  {
    path: 'rehearse',
    name: 'Rehearse',
    purpose: 'hear the packs in place',
    count: ({ packs }) => ({ value: packs.count, of: 'packs' }),
    countsSounds: false,
  },
];
