import { storedBrief } from '@/core/brief';
import type { PackLine, ProjectState } from '@/wire';

export interface Station {
  path: string;
  name: string;
  /** What the station is for, in a few words. */
  purpose: string;
  /** Its count, and what the count counts. */
  count(state: ProjectState): { value: number; of: string };
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
  },
  {
    path: 'shape',
    name: 'Shape',
    purpose: 'cut, level, repair and join',
    count: ({ sounds }) => ({
      value: sounds.filter(({ worries }) => worries.some(({ state }) => state === 'open')).length,
      of: 'sounds with a worry',
    }),
  },
  {
    path: 'compare',
    name: 'Compare',
    purpose: 'weigh codecs against each other',
    count: () => ({ value: 0, of: 'trials' }),
  },
  {
    path: 'pack',
    name: 'Pack',
    purpose: 'build what destinations take',
    count: ({ lines }) => ({
      value: lines.flatMap(missingFiles).length,
      of: 'files to build',
    }),
  },
  {
    path: 'rehearse',
    name: 'Rehearse',
    purpose: 'hear the packs in place',
    count: ({ lines }) => ({
      value: new Set(
        lines
          .filter((line) => missingFiles(line).length === 0)
          .map(({ assignment }) => assignment.briefId),
      ).size,
      of: 'packs',
    }),
  },
];

/** The files of a line that no finished, up-to-date output stands for. */
export function missingFiles({ assignment, outputs }: PackLine): string[] {
  return storedBrief(assignment.briefId)
    .files.map((file) => file.id)
    .filter((id) => !outputs.some((o) => o.fileId === id && o.upToDate && o.state === 'done'));
}
