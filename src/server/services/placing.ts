import { storedBrief, type BriefCatalogue } from '@/core/brief/catalogue';
import type { Need } from '@/core/brief/needs';
import type { Brief, BriefFile } from '@/core/brief/schema';
import { errorFacts, type ErrorFacts } from '@/core/errors';
import { writerById } from '@/core/formats/write';
import { givenNames, namesMeet, type FileToName, type GivenName } from '@/core/pack/naming';
import { hasToken } from '@/core/pack/pattern';
import { fileOfSlot } from '@/core/pack/slots';
import type { Assignment, Sound } from '@/wire';

/** One sound on its way to one destination. */
interface Placed {
  assignment: Assignment;
  sound: Sound;
  need: Need;
}

/** What the name of a file is made of, apart from what its destination demands and its place there. */
export interface Naming extends Pick<FileToName, 'ending' | 'own' | 'slots'> {
  values: Omit<FileToName['values'], 'number'>;
}

/** What tells a file of an assignment from all others. */
export function placeKey({ id }: Pick<Assignment, 'id'>, fileId: string): string {
  return `${id} ${fileId}`;
}

export function namingOf(
  { assignment: { choices }, sound, need }: Placed,
  brief: Brief,
  file: BriefFile,
): Naming {
  const needed = need.files.find((one) => one.file.id === file.id);
  const slots = choices.slots?.filter((path) => fileOfSlot(brief, path)?.id === file.id);
  return {
    ending: needed?.ending ?? file.extension,
    ...(choices.name !== undefined && { own: choices.name }),
    ...(slots && slots.length > 0 && { slots }),
    values: {
      name: sound.name,
      group: sound.group,
      language: sound.language ?? '',
      prefix: choices.prefix ?? '',
      format: writerById(needed?.plan.writer ?? file.writer).format,
    },
  };
}

/** A file that is to have a name at its destination, where it is so many-th. */
export function fileToName(brief: Brief, { values, ...rest }: Naming, number: number): FileToName {
  return { demands: brief, place: brief.id, ...rest, values: { ...values, number } };
}

/** Why files cannot be built that others at their destination are called as, where names may not meet. */
export function meetingNames(
  { names }: Brief,
  files: readonly (Pick<GivenName, 'path' | 'meets'> | undefined)[],
): ErrorFacts | null {
  const met = names?.meeting === 'refuse' ? files.find((one) => one?.meets) : undefined;
  return met ? errorFacts(namesMeet(met.path)) : null;
}

/** Whether a name hangs on how many go there before it. */
export function isCounted({ names, folder }: Brief, own: string | undefined): boolean {
  return [own ?? names?.pattern, folder].some((pattern) => hasToken(pattern, 'number'));
}

/** The names and folders that the files of a project have at their destinations, by `placeKey`, all worked out anew. */
export function namesOf(
  projectId: number,
  placed: readonly Placed[],
  briefs: (projectId: number) => BriefCatalogue,
): Map<string, GivenName> {
  const catalogue = briefs(projectId);
  const counts = new Map<string, number>();
  const files = placed.flatMap((one) => {
    const { briefId } = one.assignment;
    const brief = storedBrief(catalogue, briefId);
    const number = (counts.get(briefId) ?? 0) + 1;
    counts.set(briefId, number);
    return brief.files.map((file) => ({
      key: placeKey(one.assignment, file.id),
      toName: fileToName(brief, namingOf(one, brief, file), number),
    }));
  });
  const given = givenNames(files.map(({ toName }) => toName));
  return new Map(files.map(({ key }, i) => [key, given[i]!]));
}
