import { storedBrief } from '@/core/brief/catalogue';
import type { Brief } from '@/core/brief/schema';
import { givenNames, type GivenName } from '@/core/pack/naming';
import type { Context } from '../context';
import type { CellName, NamedFile } from '../db/cellFiles';
import { fileToName, isCounted, type Naming } from './placing';

/** More files of one destination that are other than before are named together with all others there. */
export const MOST_SINGLE = 30;

/** A file whose name is to be given; null for one that leaves its destination. */
export interface Renamed {
  cellId: number;
  fileId: string;
  before: Pick<NamedFile, 'naming' | 'wanted' | 'given' | 'passed'> | null;
  naming: string | null;
}

/** Keeping the names that files have at destinations. A name hangs on those of all others that go there. */
export function cellNameService({ db, briefs }: Pick<Context, 'db' | 'briefs'>) {
  /**
   * Gives names to what is other than before at a destination: to those alone where nothing meets, else to all.
   * Answers the cells whose names are other than before.
   */
  function rename(projectId: number, briefId: string, list: readonly Renamed[]): Set<number> {
    const brief = storedBrief(briefs(projectId), briefId);
    const areAlone = list.every((one) => renameAlone(projectId, brief, one));
    return areAlone ? new Set(list.map(({ cellId }) => cellId)) : renameAll(projectId, briefId);
  }

  /** Answers false where others may have to be named anew with it. */
  function renameAlone(
    projectId: number,
    brief: Brief,
    { cellId, fileId, before, naming }: Renamed,
  ): boolean {
    const at = { projectId, briefId: brief.id, cellId, fileId };
    const parsed = naming === null ? null : (JSON.parse(naming) as Naming);
    const comesOrGoes = before === null || parsed === null;
    const isCountedNow =
      (parsed && isCounted(brief, parsed.own)) ||
      (comesOrGoes && db.cellFiles.hasCounted(projectId, brief.id));
    const wasNumbered = before !== null && before.given !== before.wanted;
    const isHard = isCountedNow || wasNumbered || db.cellFiles.isPassing(projectId, brief.id);
    if (isHard || (before && db.cellFiles.isNameTaken({ ...at, key: before.wanted }))) return false;
    if (parsed === null) return true;
    if (parsed.slots) return false;
    const [given] = givenNames([fileToName(brief, parsed, 0)]);
    if (db.cellFiles.isNameTaken({ ...at, key: given!.wanted })) return false;
    db.cellFiles.setName(at, nameOf(given!));
    return true;
  }

  /** Names everything at a destination anew. Answers the cells whose names are other than before. */
  function renameAll(projectId: number, briefId: string): Set<number> {
    const brief = storedBrief(briefs(projectId), briefId);
    const places = new Map<number, number>();
    const order = new Map(brief.files.map(({ id }, i) => [id, i]));
    const rows = db.cellFiles
      .namesOfBrief(projectId, briefId)
      .sort((a, b) => a.cellId - b.cellId || order.get(a.fileId)! - order.get(b.fileId)!);
    const files = rows.map(({ cellId, naming }) => {
      if (!places.has(cellId)) places.set(cellId, places.size + 1);
      return fileToName(brief, JSON.parse(naming) as Naming, places.get(cellId)!);
    });
    const changed = new Set<number>();
    givenNames(files).forEach((given, i) => {
      const row = rows[i]!;
      const name = nameOf(given);
      if (isSame(row, name)) return;
      db.cellFiles.setName(row, name);
      changed.add(row.cellId);
    });
    db.staleCells.settleNames(projectId, briefId);
    return changed;
  }

  return { rename, renameAll };
}

function nameOf({ key: given, ...rest }: GivenName): CellName {
  return { ...rest, given };
}

function isSame(a: CellName, b: CellName): boolean {
  return (
    a.path === b.path &&
    a.meets === b.meets &&
    a.passed === b.passed &&
    a.wanted === b.wanted &&
    a.given === b.given &&
    a.name === b.name &&
    a.paths.length === b.paths.length &&
    a.paths.every((path, i) => path === b.paths[i])
  );
}
