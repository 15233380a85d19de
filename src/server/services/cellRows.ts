import { cellState, inShort, isClipping, verdictInShort } from '@/core/brief/cell';
import { storedBrief } from '@/core/brief/catalogue';
import { sizeKey } from '@/core/brief/expected';
import type { Brief } from '@/core/brief/schema';
import { groupBy } from '@/core/group';
import type { Assignment, Sound } from '@/wire';
import type { Context } from '../context';
import type { CellFile, CellFileRow, FileDone, NamedFile } from '../db/cellFiles';
import type { CellRow, NewestOutput } from '../db/cells';
import { STALE } from '../db/staleCells';
import { cellBasis, rowsBasis } from './bases';
import { cellNameService, MOST_SINGLE, type Renamed } from './cellNames';
import { rehearsedAs } from './cellStates';
import type { NeedService } from './needs';
import { toldOf } from './packedSounds';
import { isCounted, meetingNames, namingOf } from './placing';

/** What is worked out at once, before a change is over: by what has come of one cell. The rest follows soon after. */
const MOST_AT_ONCE = 2_000;
/** Cells that are worked out in one breath otherwise: some ten milliseconds. */
const SLICE = 60;

/**
 * Keeping what is stored of sounds at destinations as it must be. Triggers say what is out of date; it is worked out
 * anew within the change that made it so, or in slices behind it where that is much.
 */
export function cellRowService(
  { db, briefs }: Pick<Context, 'db' | 'briefs'>,
  { needOfAssigned, verdictOf }: NeedService,
) {
  const names = cellNameService({ db, briefs });

  /** Works out what a change has made stale. Call within it, at its end. */
  function settleSoon(): void {
    if (db.staleCells.cost(MOST_AT_ONCE) >= MOST_AT_ONCE)
      return db.staleCells.say(db.cells.nextRevision());
    settle(db.staleCells.fresh(MOST_AT_ONCE));
    settleNames();
  }

  /** Works out what is stale though no change of this Bijou made it so. */
  function settleFresh(): void {
    if (db.staleCells.fresh(1).length > 0) db.transaction(settleSoon);
  }

  /** Works out the next few of many. Answers whether there are more, and whose these were. */
  function settleSlice(): { isMore: boolean; projects: number[] } {
    return db.transaction(() => {
      const next = db.staleCells.first(SLICE);
      settle(next);
      const isMore = next.length === SLICE;
      if (!isMore) settleNames();
      return { isMore, projects: db.cells.projectsOf(next.map(({ id }) => id)) };
    });
  }

  /** Has some cells worked out now that somebody looks at. */
  function settleThese(ids: readonly number[]): void {
    const stale = db.staleCells.isAny() ? db.staleCells.among(ids) : [];
    if (stale.length === 0 && db.staleCells.names().length === 0) return;
    db.transaction(() => {
      settle(stale);
      settleNames();
    });
  }

  /** The same of all that goes to a destination, in slices: that may be much. */
  async function settleBrief(projectId: number, briefId: string): Promise<void> {
    while (db.staleCells.isAny()) {
      const next = db.staleCells.ofBrief(projectId, briefId, SLICE);
      const isLast = next.length < SLICE;
      db.transaction(() => {
        settle(next);
        if (isLast && db.staleCells.areNames(projectId, briefId)) nameAnew(projectId, briefId);
      });
      if (isLast) return;
      await new Promise((others) => setImmediate(others));
    }
  }

  function settle(stale: readonly { id: number; depth: number }[]): void {
    if (stale.length === 0) return;
    const ids = stale.map(({ id }) => id);
    const revision = db.cells.nextRevision();
    db.staleCells.settle(ids);
    const known = new Map(db.cells.byIds(ids).map((row) => [row.id, row]));
    const assignments = new Map(db.packs.assignmentsById(ids).map((row) => [row.id, row]));
    const deep = stale.filter(({ id, depth }) => depth === STALE.all || !known.has(id));
    const oldNames = groupBy(db.cellFiles.names(deep.map(({ id }) => id)), ({ cellId }) => cellId);
    const renamed: (Renamed & { projectId: number; briefId: string })[] = [];
    const sounds = new Map<number, Sound | undefined>();
    for (const { id } of deep) {
      const assignment = assignments.get(id);
      const before = known.get(id);
      const soundId = assignment?.soundId ?? before?.soundId;
      if (soundId !== undefined && !sounds.has(soundId)) {
        sounds.set(soundId, db.sounds.byId(soundId));
      }
      const sound = soundId === undefined ? undefined : sounds.get(soundId);
      const own = new Map((oldNames.get(id) ?? []).map((row) => [row.fileId, row]));
      const isListed = assignment && sound?.facts && sound.removedAt === null;
      if (isListed && isSame(assignment, sound, before, own)) continue;
      const files = isListed ? needed(assignment, sound, revision) : [];
      if (!isListed && before) {
        db.cells.unlist(id, revision);
        db.cellFiles.drop(id);
      }
      const { projectId, briefId } = isListed
        ? { projectId: sound.projectId, briefId: assignment.briefId }
        : (before ?? {});
      if (projectId === undefined || briefId === undefined) continue;
      const now = new Map(files.map((file) => [file.fileId, file.naming]));
      for (const fileId of new Set([...own.keys(), ...now.keys()])) {
        const old = own.get(fileId) ?? null;
        const naming = now.get(fileId) ?? null;
        // What has no name yet is named, whatever it was before.
        if (old?.naming === naming && old?.path !== '') continue;
        const named = old?.path === '' ? null : old;
        renamed.push({ ...{ projectId, briefId, cellId: id, fileId }, before: named, naming });
      }
    }
    const others = rename(renamed);
    judge([...new Set([...ids, ...others])], revision);
  }

  /** Whether a cell was worked out from the very same: then its need and its names stand. */
  function isSame(
    assignment: Assignment,
    sound: Sound,
    before: CellRow | undefined,
    own: ReadonlyMap<string, NamedFile>,
  ): boolean {
    if (!before?.isListed) return false;
    const brief = storedBrief(briefs(sound.projectId), assignment.briefId);
    const isNamed = brief.files.every(({ id }) => (own.get(id)?.path ?? '') !== '');
    return isNamed && before.basis === cellBasis(sound, brief, assignment);
  }

  /** Writes down what a cell needs; answers its files. */
  function needed(assignment: Assignment, sound: Sound, revision: number): CellFile[] {
    const { id, soundId, briefId } = assignment;
    const { projectId } = sound;
    const brief = storedBrief(briefs(projectId), briefId);
    const need = needOfAssigned(sound, assignment);
    const files = brief.files.map((file): CellFile => {
      const found = need.files.find((one) => one.file.id === file.id);
      const naming = namingOf({ assignment, sound, need }, brief, file);
      return {
        fileId: file.id,
        key: need.keys.get(file.id) ?? null,
        naming: JSON.stringify(naming),
        isCounted: isCounted(brief, naming.own),
        // What is handed on as it is says nothing about others.
        sizeKey: found && !found.plan.isCopy ? sizeKey(found) : null,
      };
    });
    const basis = cellBasis(sound, brief, assignment);
    const seconds = sound.facts?.seconds ?? 0;
    const short = inShort(need);
    db.cells.put({ id, projectId, soundId, briefId, basis, need: short, seconds, revision });
    db.cellFiles.put({ id, projectId, briefId }, files);
    return files;
  }

  /** Gives names, by destination. Answers other cells of which something is other than before. */
  function rename(list: readonly (Renamed & { projectId: number; briefId: string })[]): number[] {
    const places = groupBy(list, ({ projectId, briefId }) => `${projectId} ${briefId}`);
    return [...places.values()].flatMap((own) => {
      const { projectId, briefId } = own[0]!;
      if (own.length > MOST_SINGLE) {
        // Very many are named together, once all of them are known.
        db.staleCells.outdateNames(projectId, briefId);
        return [];
      }
      return [...names.rename(projectId, briefId, own)];
    });
  }

  function settleNames(): void {
    for (const { projectId, briefId } of db.staleCells.names()) nameAnew(projectId, briefId);
  }

  function nameAnew(projectId: number, briefId: string): void {
    const changed = [...names.renameAll(projectId, briefId)];
    if (changed.length > 0) judge(changed, db.cells.nextRevision());
  }

  /** Writes down what has come of cells whose needs and names are known. */
  function judge(ids: readonly number[], revision: number): void {
    const outputs = groupBy(db.cells.newestOutputs(ids), ({ assignmentId }) => assignmentId);
    const files = groupBy(db.cellFiles.of(ids), ({ cellId }) => cellId);
    const told = new Map(db.rehearsals.toldOf(ids).map((row) => [row.assignmentId, row]));
    for (const row of db.cells.byIds(ids)) {
      if (!row.isListed) continue;
      const brief = storedBrief(briefs(row.projectId), row.briefId);
      const own = files.get(row.id) ?? [];
      const made = (outputs.get(row.id) ?? []).map((output) => {
        const file = own.find(({ fileId }) => fileId === output.fileId);
        return { output, ...madeOf(row, brief, file, output) };
      });
      const done = made.filter(({ verdict }) => verdict === 'accepted');
      const missing = brief.files.length - done.length;
      const obstacle = row.need.obstacle ?? meetingNames(brief, own);
      const hashes = done.flatMap(({ output }) => output.sha256 ?? []);
      db.cells.judge({
        id: row.id,
        state: cellState(
          { ...row.need, obstacle },
          made.map(({ output, upToDate, verdict }) => ({ state: output.state, upToDate, verdict })),
          missing,
        ),
        finished: done.length,
        missing,
        bytes: done.reduce((sum, { bytes }) => sum + bytes, 0),
        clips: row.need.clips || made.some(({ clips }) => clips),
        rehearsed: rehearsedAs(told.get(row.id), brief, hashes),
        revision,
      });
    }
  }

  /** How far a file is, and what its brief says of it; that is written down as soon as it is known. */
  function madeOf(
    row: CellRow,
    brief: Brief,
    file: CellFileRow | undefined,
    { encodingId, fileId, key, sha256 }: NewestOutput,
  ): FileDone & { upToDate: boolean } {
    const upToDate = key === file?.key;
    if (!file || !upToDate || sha256 === null) {
      if (file && file.sha256 !== null) db.cellFiles.setDone(file, nothing, null);
      return { ...nothing, upToDate };
    }
    if (file.sha256 === sha256) return { ...file, upToDate };
    const assignment = db.packs.assignmentsById([row.id])[0]!;
    const sound = db.sounds.byId(row.soundId)!;
    const encoding = db.encodings.byId(encodingId)!;
    const { files } = needOfAssigned(sound, assignment);
    const needed = files.find((one) => one.file.id === fileId);
    const judged = verdictOf(encoding, brief, fileId, assignment.choices, needed?.tags);
    const facts = encoding.verification?.facts;
    const done: FileDone = {
      sha256,
      verdict: judged && verdictInShort(judged),
      clips: judged !== null && isClipping(judged.findings),
      bytes: facts?.bytes ?? 0,
      bytesPerSecond: facts ? facts.bytes / facts.seconds : null,
    };
    const told = needed && facts && toldOf(sound, needed, { facts });
    db.cellFiles.setDone(file, done, told ?? null);
    return { ...done, upToDate };
  }

  return {
    settleSoon,
    settleFresh,
    settleSlice,
    settleThese,
    settleBrief,
    /** Rows that another Bijou worked out, or for other briefs, are worked out anew. */
    judgedBy: (catalogue: readonly Brief[]) =>
      db.transaction(() => db.staleCells.judgedBy(rowsBasis(catalogue))),
  };
}

export type CellRowService = ReturnType<typeof cellRowService>;

const nothing: FileDone = {
  sha256: null,
  verdict: null,
  clips: false,
  bytes: 0,
  bytesPerSecond: null,
};
