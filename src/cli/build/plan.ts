import { isAbsolute, join, posix } from 'node:path';
import { briefById } from '@/core/brief/catalogue';
import type { NeededFile } from '@/core/brief/needs';
import type { Brief } from '@/core/brief/schema';
import { BijouError, type ErrorFacts } from '@/core/errors';
import { pathInPack } from '@/core/pack/layout';
import type { ReadOnlyBijou } from '@/server/readOnly';

/** A sound on its way to a destination, as the data folder knows it. */
type Sent = ReturnType<ReadOnlyBijou['cells']['needs']>[number];

/** One file that is wanted of one sound. */
export interface Entry extends Pick<Sent, 'sound' | 'assignment'> {
  brief: Brief;
  fileId: string;
  /** Inside of the folder for results. */
  path: string;
  /** null where nobody can say how it is made. */
  needed: NeededFile | null;
  key: string;
  /** Why it cannot be made as things are; whether a choice would change that. */
  obstacle: ErrorFacts | null;
  isOpen: boolean;
}

/** Which of a project is wanted. */
interface Chosen {
  brief?: readonly string[] | undefined;
  only?: readonly string[] | undefined;
}

/** Every file that is wanted, in the order of the project. @throws not-found for a brief that there is not */
export async function entriesOf(
  bijou: ReadOnlyBijou,
  projectId: number,
  { brief: ids, only }: Chosen,
): Promise<Entry[]> {
  const catalogue = bijou.briefs(projectId);
  for (const id of ids ?? []) briefById(catalogue, id);
  const isNamed = await namedBy(only);
  return bijou.cells
    .needs(projectId)
    .filter(({ brief, sound }) => (ids?.includes(brief.id) ?? true) && isNamed(sound))
    .flatMap(({ sound, brief, assignment, files, findings, obstacle, paths, keys }) => {
      const wanted = brief.files.length > 0 ? brief.files.map(({ id }) => id) : ['file'];
      const isOpen =
        obstacle?.code === 'not-allowed' ||
        (!findings.some(({ verdict }) => verdict === 'cannot') &&
          findings.some(({ verdict }) => verdict === 'decide'));
      return wanted.flatMap((fileId) =>
        (paths.get(fileId) ?? [fileId]).map((path) => ({
          sound,
          brief,
          fileId,
          assignment,
          path: safePath(pathInPack(brief.id, path)),
          needed: files.find(({ file }) => file.id === fileId) ?? null,
          key: keys.get(fileId) ?? '',
          obstacle,
          isOpen: obstacle !== null && isOpen,
        })),
      );
    });
}

/** Patterns name sounds, alone or with their groups in front. */
async function namedBy(patterns: readonly string[] | undefined) {
  if (!patterns) return () => true;
  const { default: picomatch } = await import('picomatch');
  const fits = picomatch([...patterns], { dot: true });
  return ({ name, group }: Sent['sound']) =>
    fits(name) || fits(group === '' ? name : `${group}/${name}`);
}

/** Names are cleaned where they are made; that nothing leads out of the folder is seen to once more. */
function safePath(path: string): string {
  const normal = posix.normalize(path);
  if (normal === path && !normal.startsWith('..') && !isAbsolute(normal)) return join(normal);
  throw new BijouError('internal', `"${path}" leads out of the folder.`, 'Rename that sound.');
}
