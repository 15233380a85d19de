import { stat } from 'node:fs/promises';
import { briefById, storedBrief } from '@/core/brief/catalogue';
import { BijouError, errorFacts, type ErrorFacts } from '@/core/errors';
import { packChanges, type KeptFile } from '@/core/pack/changes';
import { isRight, reasonsAgainst } from '@/core/pack/plan';
import { plural } from '@/core/words';
import type { PackDetails, PackedFile, PackSummary } from '@/wire';
import type { Context } from '../context';
import type { PackRow } from '../db/madePacks';
import { sha256OfFile } from '../files/store';
import { digestOf } from '../files/packDigest';
import { RANK } from '../jobs/ranks';
import type { PlannedEntry } from '../work/planPack';
import type { DeletionService } from './deleting';
import { keptFiles, type OutlineService } from './outlines';
import type { PackService } from './packs';

/** Putting packs together, and keeping them as they were made. */
export function packingService(
  { db, store, briefs, changed, pump }: Context,
  { plan, look }: OutlineService,
  packs: PackService,
  { release }: DeletionService,
) {
  /**
   * Makes a pack: builds what is missing, and puts it together as soon as everything is there. Answers the pack; the
   * newest one where nothing would be other about it.
   * @throws not-allowed with every reason why it would be wrong
   */
  async function make(projectId: number, wanted: readonly string[]): Promise<PackSummary> {
    if (wanted.length === 0) throw noBrief();
    const briefIds = [...new Set(wanted)];
    for (const id of briefIds) briefById(briefs(projectId), id);
    const { title, missing, wrong, newest } = await lookAtLatest(projectId, briefIds);
    const waiting = db.madePacks
      .of(projectId)
      .find(({ state, briefs: ids }) => isOpen(state) && sameIds(ids, briefIds));
    if (waiting) return summary(waiting);
    if (newest?.isCurrent) return summary(db.madePacks.byId(newest.id)!);
    if (wrong.length > 0) throw wouldBeWrong(wrong);
    const id = db.transaction(() => {
      const made = db.madePacks.add(projectId, title, briefIds);
      if (missing.length > 0) packs.build(projectId, missing, RANK.asked);
      else queue(projectId, made);
      takeOutOldest(projectId);
      changed(projectId);
      return made;
    });
    pump();
    return summary(db.madePacks.byId(id)!);
  }

  /** A look behind which no such pack was finished: it would be held against one that it does not know. */
  async function lookAtLatest(projectId: number, briefIds: readonly string[]) {
    const latest = () =>
      db.madePacks
        .of(projectId)
        .find(({ state, briefs: ids }) => !isOpen(state) && sameIds(ids, briefIds))?.id;
    for (;;) {
      const before = latest();
      const looked = await look(projectId, briefIds);
      if (latest() === before) return looked;
    }
  }

  /** The newest ones are kept; those that go out of the list can be brought back for a day, as what people remove. */
  function takeOutOldest(projectId: number): void {
    const old = db.madePacks
      .of(projectId)
      .filter(({ state }) => !isOpen(state))
      .slice(MOST_KEPT);
    for (const { id } of old) db.madePacks.setRemoved(id, new Date().toISOString());
  }

  function queue(projectId: number, packId: number): void {
    db.madePacks.setState(packId, 'packing');
    db.jobs.add(projectId, 'pack', packId, RANK.asked);
  }

  /** Goes on with packs that waited for their files, once these are there or have failed. */
  function follow(projectId: number): void {
    for (const id of db.madePacks.waiting(projectId)) {
      if (db.cells.isOpen(projectId, packById(id).briefs)) continue;
      db.transaction(() => queue(projectId, id));
      pump();
    }
  }

  /** Puts a pack together: every file is looked at once more, to the last byte. @throws not-allowed, damaged-sound */
  async function assemble(packId: number, hear: Hearing): Promise<void> {
    const pack = packById(packId);
    const { signal, isApart } = hear;
    const { projectId, briefs: briefIds } = pack;
    const planned = await plan(projectId, briefIds, 'all', { signal, isApart });
    const reasons = reasonsAgainst(planned);
    if (reasons.length > 0) throw wouldBeWrong(reasons.map(({ message }) => message));
    const row = (entry: PlannedEntry): PackedFile => {
      const { path, kind, briefId, sha256, bytes, soundId, mimeType } = entry;
      return { path, kind, briefId, sha256, bytes, soundId, mimeType };
    };
    db.transaction(() => {
      db.madePacks.clearFiles(packId);
      // From here on their bytes are held.
      for (const entry of planned.entries) {
        if (!entry.isWritten) db.madePacks.addFile(packId, row(entry));
      }
    });
    const checked = new Set<string>();
    for (const [i, entry] of planned.entries.entries()) {
      hear.signal.throwIfAborted();
      if (entry.content) {
        const content = entry.content;
        await store.add(streamOf(content), content.length, (sha256) =>
          db.madePacks.addFile(packId, row({ ...entry, sha256 })),
        );
      } else if (!checked.has(entry.sha256)) {
        checked.add(entry.sha256);
        await refuseDamage(entry);
      }
      hear.progress((i + 1) / planned.entries.length);
    }
    hear.commit(() => {
      const digest = digestOf(db.madePacks.files(packId));
      db.madePacks.setState(packId, 'done', { digest });
      for (const id of briefIds) {
        const { host } = storedBrief(briefs(projectId), id);
        if (host !== undefined) db.rehearsals.due(projectId, id);
      }
    });
  }

  async function refuseDamage({ path, sha256, bytes }: PlannedEntry): Promise<void> {
    const file = store.path(sha256);
    const { size } = await stat(file).catch(() => ({ size: -1 }));
    if (size === bytes && (await sha256OfFile(file)) === sha256) return;
    throw new BijouError(
      'damaged-sound',
      `The finished file of ${path} is damaged in the data folder.`,
      'Build it again.',
    );
  }

  function failed(packId: number, error: ErrorFacts): void {
    const hashes = db.madePacks.files(packId).map(({ sha256 }) => sha256);
    db.madePacks.clearFiles(packId);
    db.madePacks.setState(packId, 'failed', { error });
    release(...hashes);
  }

  /** @throws not-found */
  function packById(id: number): PackRow {
    const pack = db.madePacks.byId(id);
    if (pack) return pack;
    throw new BijouError('not-found', 'That pack is not there any more.', 'Make it again.');
  }

  function summary(pack: PackRow): PackSummary {
    const { id, title, briefs: ids, state, error, digest, createdAt, files, bytes } = pack;
    return { id, title, briefs: ids, state, error, digest, createdAt, files, bytes };
  }

  /** Takes a pack out of the list; for a day it can be brought back. */
  function remove(id: number): void {
    const { projectId } = packById(id);
    db.transaction(() => {
      db.madePacks.setRemoved(id, new Date().toISOString());
      changed(projectId);
    });
  }

  function bringBack(id: number): void {
    const { projectId } = packById(id);
    db.transaction(() => {
      db.madePacks.setRemoved(id, null);
      changed(projectId);
    });
  }

  /** Lets packs go for good that were removed more than a day ago, with all bytes that nothing else needs. */
  function letGo(now = Date.now()): void {
    const before = new Date(now - KEPT_MS).toISOString();
    db.transaction(() => {
      for (const id of db.madePacks.removedBefore(before)) {
        const hashes = db.madePacks.files(id).map(({ sha256 }) => sha256);
        db.jobs.drop('pack', id);
        db.madePacks.forget(id);
        release(...hashes);
      }
    });
  }

  /** Everything about a pack, with what differs from another one and from what would be made now. */
  async function details(id: number, since: number | null): Promise<PackDetails> {
    const pack = packById(id);
    const list = db.madePacks.files(id);
    return {
      ...summary(pack),
      list,
      since: since === null ? null : { id: since, changes: packChanges(filesOf(since), list) },
      now: pack.state === 'done' ? await changesSince(pack, list) : null,
    };
  }

  async function changesSince(pack: PackRow, list: readonly KeptFile[]) {
    try {
      const planned = await plan(pack.projectId, pack.briefs, 'none');
      return isRight(planned) ? packChanges(list, keptFiles(planned)) : null;
    } catch (error) {
      // A brief that is not there any more.
      if (errorFacts(error).code === 'not-found') return null;
      throw error;
    }
  }

  /** The files of a finished pack. @throws not-found, not-allowed */
  function filesOf(id: number): PackedFile[] {
    const pack = packById(id);
    if (pack.state === 'done') return db.madePacks.files(id);
    throw new BijouError('not-allowed', 'That pack is not finished.', 'Wait, or make it again.');
  }

  return {
    make,
    follow,
    assemble,
    failed,
    packById,
    filesOf,
    remove,
    bringBack,
    letGo,
    details,
    list(projectId: number): PackSummary[] {
      return db.madePacks.of(projectId).map(summary);
    },
  };
}

/** So many packs of a project are kept in its list. */
const MOST_KEPT = 50;

/** So long a pack can be brought back that was removed. */
const KEPT_MS = 24 * 3_600_000;

export type PackingService = ReturnType<typeof packingService>;

/** Whether it is still being made. */
const isOpen = (state: PackRow['state']) => state === 'waiting' || state === 'packing';

const sameIds = (some: readonly string[], others: readonly string[]) =>
  some.length === others.length && some.every((id) => others.includes(id));

interface Hearing {
  signal: AbortSignal;
  /** It has brought something down before: it is laid out in a process of its own. */
  isApart: boolean;
  progress(share: number): void;
  commit(write: () => void): void;
}

async function* streamOf(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  yield bytes;
}

/** So many reasons are said in one breath. */
const MOST_REASONS = 5;

function wouldBeWrong(reasons: readonly string[]): BijouError {
  const more = reasons.length - MOST_REASONS;
  const rest = more > 0 ? ` And ${plural(more, 'reason')} more.` : '';
  return new BijouError(
    'not-allowed',
    `The pack would be wrong: ${reasons.slice(0, MOST_REASONS).join(' ')}${rest}`,
    'See what is listed beside it.',
  );
}

function noBrief(): BijouError {
  return new BijouError('bad-setting', 'No destination is chosen.', 'Choose at least one.');
}
