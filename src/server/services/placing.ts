import { storedBrief } from '@/core/brief/catalogue';
import { givenNames, type FileToName, type GivenName } from '@/core/pack/naming';
import { fileOfSlot } from '@/core/pack/slots';
import { writerById } from '@/core/formats/write';
import type { Assignment, Sound } from '@/wire';
import type { Need } from '@/core/brief/needs';
import type { Context } from '../context';

/** One sound on its way to one destination. */
interface Placed {
  assignment: Assignment;
  sound: Sound;
  need: Need;
}

/** What tells a file of an assignment from all others. */
export function placeKey({ id }: Pick<Assignment, 'id'>, fileId: string): string {
  return `${id} ${fileId}`;
}

/** The names and folders that the files of a project have at their destinations, by `placeKey`. */
export function namesOf(
  projectId: number,
  placed: readonly Placed[],
  briefs: Context['briefs'],
): Map<string, GivenName> {
  const catalogue = briefs(projectId);
  const counts = new Map<string, number>();
  const files: (FileToName & { key: string })[] = placed.flatMap(({ assignment, sound, need }) => {
    const { briefId, choices } = assignment;
    const brief = storedBrief(catalogue, briefId);
    const number = (counts.get(briefId) ?? 0) + 1;
    counts.set(briefId, number);
    return brief.files.map((file) => {
      const needed = need.files.find((one) => one.file.id === file.id);
      return {
        key: placeKey(assignment, file.id),
        demands: brief,
        place: briefId,
        ending: needed?.ending ?? file.extension,
        own: choices.name,
        slots: choices.slots?.filter((path) => fileOfSlot(brief, path)?.id === file.id),
        values: {
          number,
          name: sound.name,
          group: sound.group,
          language: sound.language ?? '',
          prefix: choices.prefix ?? '',
          format: writerById(needed?.plan.writer ?? file.writer).format,
        },
      };
    });
  });
  const given = givenNames(files);
  return new Map(files.map(({ key }, i) => [key, given[i]!]));
}
