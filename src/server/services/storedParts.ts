import type { Brief } from '@/core/brief/schema';
import { groupBy } from '@/core/group';
import type { PartFile, PlacedFile } from '@/core/pack/input';
import type { Sound } from '@/wire';
import type { Database } from '../db';
import type { FileForPack } from '../db/cellFiles';
import { packedSound, pieceOf, type ToldFile, type ToldSound } from './packedSounds';
import { meetingNames } from './placing';

/** A file for a pack, and the cell whose it is. */
export interface StoredPartFile extends PartFile {
  cellId: number;
}

/** The files of everything that goes to a destination, as their rows say. */
export function storedPartFiles(
  db: Pick<Database, 'sounds' | 'cellFiles'>,
  projectId: number,
  brief: Brief,
): StoredPartFile[] {
  return inOrder(brief, db.cellFiles.forPack(projectId, brief.id)).flatMap((own) =>
    own.map((row) => storedPartFile(db, brief, row, own)),
  );
}

/** Where they lie, whatever has come of them. */
export function placedFiles(
  db: Pick<Database, 'cellFiles'>,
  projectId: number,
  brief: Brief,
): PlacedFile[] {
  return inOrder(brief, db.cellFiles.placed(projectId, brief.id)).flatMap((own) =>
    own.map(({ soundId, name, group, seconds, fileId, paths, slots }) => ({
      ...{ soundId, name, group, seconds, fileId, paths },
      slots: slotsOf(brief, paths, slots),
    })),
  );
}

/** The files of each cell in the order in which its brief names them. */
function inOrder<Row extends { cellId: number; fileId: string }>(
  brief: Brief,
  rows: readonly Row[],
): Row[][] {
  const order = new Map(brief.files.map(({ id }, i) => [id, i]));
  const cells = [...groupBy(rows, ({ cellId }) => cellId).values()];
  return cells.map((own) =>
    own.sort((a, b) => (order.get(a.fileId) ?? 0) - (order.get(b.fileId) ?? 0)),
  );
}

function storedPartFile(
  db: Pick<Database, 'sounds'>,
  brief: Brief,
  row: FileForPack,
  own: readonly FileForPack[],
): StoredPartFile {
  const { cellId, soundId, name, group, seconds, fileId, paths, sha256 } = row;
  return {
    ...{ cellId, soundId, name, group, seconds, fileId, paths },
    slots: slotsOf(brief, paths, row.slots),
    made:
      row.verdict === 'accepted' && row.told !== null && sha256 !== null
        ? madeOf(db, brief, { ...row, sha256, told: row.told })
        : missing(brief, row, own),
  };
}

function madeOf(
  db: Pick<Database, 'sounds'>,
  { id: briefId, version: briefVersion }: Brief,
  row: FileForPack & { sha256: string; told: string },
): PartFile['made'] {
  const { soundId: id, name, group, labels, language, fileId, sha256 } = row;
  const sound: ToldSound = {
    id,
    name,
    group,
    labels,
    language,
    tempo: row.tempo as Sound['tempo'],
  };
  const whole = row.isJoined ? db.sounds.byId(id) : undefined;
  const piece = whole ? pieceOf(db, whole) : null;
  const told = JSON.parse(row.told) as ToldFile;
  return packedSound(told, { briefId, briefVersion, fileId, sha256 }, sound, piece);
}

function missing(brief: Brief, row: FileForPack, own: readonly FileForPack[]): PartFile['made'] {
  const obstacle = row.obstacle ?? meetingNames(brief, own);
  return {
    reason: notReady(row, obstacle?.message, row.wasMade, row.key !== null),
    isBuildable: row.key !== null && !obstacle,
  };
}

/** The slots that a file is meant for: what lies in one by its own name fills it as well. */
export function slotsOf(
  brief: Brief,
  paths: readonly string[],
  chosen: readonly string[],
): string[] {
  const slots = brief.layout?.slots ?? [];
  if (slots.length === 0) return [...chosen];
  const known = new Set(slots.map(({ path }) => path));
  return [...new Set([...chosen, ...paths.filter((path) => known.has(path))])];
}

/** Why there is no finished file. */
export function notReady(
  { name }: Pick<Sound, 'name'>,
  obstacle: string | undefined,
  wasMade: boolean,
  isNeeded: boolean,
): string {
  if (obstacle !== undefined) return `“${name}” cannot be built yet: ${obstacle}`;
  if (!isNeeded) return `“${name}” cannot be built.`;
  return wasMade ? `“${name}” has to be built anew.` : `“${name}” is not built yet.`;
}
