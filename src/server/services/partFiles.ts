import type { PartFile } from '@/core/pack/input';
import type { Database } from '../db';
import type { cellsAnewService } from './cellsAnew';
import { packedSound, pieceOf, toldOf, type Finished } from './packedSounds';
import { notReady, slotsOf } from './storedParts';

type Made = ReturnType<ReturnType<typeof cellsAnewService>['made']>;
type MadeCell = Made extends Generator<infer One> ? One : never;

/** The file of a cell that is finished and up to date in the data folder; null where there is none. */
function storedFile({ made }: MadeCell, fileId: string): Finished | null {
  const { encoding, upToDate, verdict } = made.find(({ row }) => row.fileId === fileId) ?? {};
  if (!upToDate || !verdict?.accepted || !encoding?.sha256 || !encoding.verification) return null;
  return { sha256: encoding.sha256, facts: encoding.verification.facts };
}

/** The files of a cell for a pack, each with what is made of it or why nothing is. */
export function partFiles(
  db: Pick<Database, 'sounds' | 'encodings'>,
  cell: MadeCell,
  finishedFile = storedFile,
): PartFile[] {
  const { assignment, sound, brief, need, made, places } = cell;
  return brief.files.map((file): PartFile => {
    const needed = need.files.find((one) => one.file.id === file.id);
    const paths = places.get(file.id)?.paths ?? [file.id];
    const found = needed && finishedFile(cell, file.id);
    const placed = { briefId: brief.id, briefVersion: brief.version, fileId: file.id };
    return {
      soundId: sound.id,
      name: sound.name,
      group: sound.group,
      seconds: sound.facts?.seconds ?? 0,
      fileId: file.id,
      paths,
      slots: slotsOf(brief, paths, assignment.choices.slots ?? []),
      made: found
        ? packedSound(
            toldOf(sound, needed, found),
            { ...placed, sha256: found.sha256 },
            sound,
            pieceOf(db, sound),
          )
        : {
            reason: notReady(sound, need.obstacle?.message, made.length > 0, needed !== undefined),
            isBuildable: needed !== undefined && !need.obstacle,
          },
    };
  });
}
