import { levelRemark } from '@/core/brief/levels';
import { expectedBytes, sizeKey } from '@/core/brief/expected';
import { lossesOf } from '@/core/brief/losses';
import type { Assignment, Cell, Output, PackLine, PlannedFile, Sound } from '@/wire';
import type { Context } from '../context';
import type { SizedFile } from '../db/cellFiles';
import type { CellRowService } from './cellRows';
import type { LookingService, Places } from './looking';
import { placeKey } from './placing';

/** So many finished files tell what others like them come to. */
const MOST_NEIGHBOURS = 200;

/** Reading what goes where: from rows what lists and counts need, and from sounds what is shown of a few. */
export function cellService(
  { db }: Pick<Context, 'db'>,
  { settleThese, settleFresh }: Pick<CellRowService, 'settleThese' | 'settleFresh'>,
  { withSounds, looked, needFor }: LookingService,
) {
  /** The names that the files of some assignments have. */
  function placesOf(assignments: readonly Assignment[]): Places {
    const rows = db.cellFiles.names(assignments.map(({ id }) => id));
    const places = new Map(rows.map((row) => [placeKey({ id: row.cellId }, row.fileId), row]));
    return (assignment, fileId) => places.get(placeKey(assignment, fileId));
  }

  /** Some assignments of a project, as they are now, with their names. */
  function chosen(projectId: number, ids: readonly number[]) {
    settleThese(ids);
    const assignments = db.packs.assignmentsById(ids);
    return { entries: withSounds(assignments, projectId), places: placesOf(assignments) };
  }

  /** What goes where, in short: of all sounds of a project, or of some. */
  function cells(projectId: number, soundIds?: readonly number[]): Cell[] {
    settleFresh();
    return soundIds ? db.cells.ofSounds(soundIds) : db.cells.of(projectId);
  }

  /** Everything that goes somewhere. */
  function idsIn(projectId: number): readonly number[] {
    settleFresh();
    return db.cells.idsOf(projectId);
  }

  const idsOf = (soundIds: readonly number[]) =>
    db.packs.assignmentsOf(soundIds).map(({ id }) => id);

  /** What goes where, with everything that Pack shows of it: of all sounds of a project, or of some assignments. */
  function lines(projectId: number, ids = idsIn(projectId)): PackLine[] {
    const { entries, places } = chosen(projectId, ids);
    return [...looked(entries, places)].map(({ assignment, sound, need, made }) => ({
      assignment,
      findings: need.findings,
      plans: need.files.map((needed): PlannedFile => {
        const { file, steps, plan, shape } = needed;
        const alike = db.cellFiles.bytesPerSecond(projectId, sizeKey(needed), MOST_NEIGHBOURS);
        return {
          fileId: file.id,
          steps,
          path: placed(places, assignment, file.id).path,
          isCopy: plan.isCopy,
          writer: plan.writer,
          settings: plan.settings,
          rateHz: shape.rateHz,
          channels: shape.channelCount,
          seconds: shape.frames / shape.rateHz,
          losses: sound.facts
            ? lossesOf(sound.facts, needed, db.sources.spectrumOf(sound.sourceSha256))
            : [],
          expected: expectedBytes(needed, sound.bytes, alike),
        };
      }),
      obstacle: need.obstacle,
      outputs: made.map(({ row, encoding, upToDate, verdict }): Output => {
        const { id, assignmentId, fileId, encodingId } = row;
        const { state, error, sha256, verification, warnings } = encoding;
        const { name, path, paths } = placed(places, assignment, fileId);
        const changed = need.files.find(({ file }) => file.id === fileId)?.changedLevel;
        const remark = changed && verification && levelRemark(changed, verification);
        return {
          ...{ id, assignmentId, fileId, encodingId, name, path, paths },
          state,
          error,
          upToDate,
          sha256,
          verification,
          verdict,
          // The remark says why as well.
          warnings: remark ? warnings.filter(({ code }) => code !== 'level-missed') : warnings,
          remark: remark ?? null,
        };
      }),
    }));
  }

  /** What some assignments, or all of a project, need to be built, with where their files will lie. */
  function* needs(projectId: number, ids = idsIn(projectId)) {
    const { entries, places } = chosen(projectId, ids);
    for (const entry of entries) {
      const { brief, need } = needFor(entry, places);
      const paths = new Map(
        brief.files.map(({ id }) => [id, placed(places, entry.assignment, id).paths]),
      );
      yield { ...entry, brief, ...need, paths };
    }
  }

  return {
    lines,
    needs,
    cells,
    idsIn,
    /** Lines of what hangs on some sounds. */
    linesOfSounds: (projectId: number, soundIds: readonly number[]) =>
      lines(projectId, idsOf(soundIds)),
    /** The files that some sounds give to destinations, as far as their size hangs on how they are made. */
    sizedFiles(soundIds: readonly number[]): SizedFile[] {
      settleThese(idsOf(soundIds));
      return db.cellFiles.sized(soundIds);
    },
    /** What a sound needs for one destination; null where it does not go there. */
    needOf({ id, projectId }: Pick<Sound, 'id' | 'projectId'>, briefId: string) {
      const sent = db.packs.assignmentsOf([id]).find((one) => one.briefId === briefId);
      return sent ? ([...needs(projectId, [sent.id])][0] ?? null) : null;
    },
    /** The name of one file at its destination. */
    placeOf(assignment: Assignment, fileId: string) {
      settleThese([assignment.id]);
      return placed(placesOf([assignment]), assignment, fileId);
    },
  };
}

export type CellService = ReturnType<typeof cellService>;

function placed(places: Places, assignment: Assignment, fileId: string) {
  return places(assignment, fileId) ?? { name: fileId, path: fileId, paths: [fileId] };
}
