import { pathInArchive } from '@/core/collect/arrivals';
import { BijouError, errorFacts, fromErrorFacts, isPassing, isShortOfRoom } from '@/core/errors';
import type { ArrivalRow, Settlement } from '../../db/intakes';
import { withArchive, type ZipEntry } from '../../files/zip';
import type { House, JobHandler, JobKind } from '../kind';

/** Entries without sound are written down so many at a time. */
const BATCH = 500;

/** Unpacking an archive: each of its files becomes an arrival of its own. */
export const unpackJob: JobKind = {
  kind: 'unpack',
  lane: 'beside',
  verb: 'unpacking',
  noun: 'archive',
  waiting: ({ context: { db } }) => db.intakes.unpacking(),
  handler: unpackHandler,
};

function unpackHandler({
  context: { db, store, changed },
  intakes: { settle },
  deletions: { release },
}: House): Omit<JobHandler, 'lane'> {
  /** Where an archive ends, unpacked or not, its bytes are of no use any more. */
  function conclude(archive: ArrivalRow, settlement: Settlement): void {
    db.intakes.settle(archive.id, settlement);
    if (archive.archiveSha256) release(archive.archiveSha256);
  }

  async function unpack(
    archive: ArrivalRow,
    entries: readonly ZipEntry[],
    progress: (share: number) => void,
    signal: AbortSignal,
  ): Promise<void> {
    const settled: { path: string; bytes: number; settlement: Settlement }[] = [];
    const flush = () =>
      db.transaction(() => {
        for (const { path, bytes, settlement } of settled) {
          const { intakeId, depth, id: archiveId } = archive;
          const id = db.intakes.add(intakeId, { path, bytes, depth: depth + 1, archiveId });
          db.intakes.settle(id, settlement);
        }
        settled.length = 0;
        changed(archive.projectId);
      });
    // After a crash it goes on behind what has been dealt with.
    for (let at = db.intakes.unpacked(archive.id); at < entries.length; at++) {
      if (signal.aborted) {
        flush();
        throw cancelled();
      }
      const entry = entries[at]!;
      await settleEntry(archive, entry, (settlement) => {
        settled.push({ path: pathOf(archive, entry), bytes: entry.bytes, settlement });
        if (settlement.state !== 'left-out' || settled.length >= BATCH) flush();
      });
      progress((at + 1) / entries.length);
    }
    flush();
  }

  async function settleEntry(
    archive: ArrivalRow,
    entry: ZipEntry,
    record: (settlement: Settlement) => void,
  ): Promise<void> {
    if (entry.leftOut) return record({ state: 'left-out', reason: entry.leftOut });
    const { projectId, intakeId, depth } = archive;
    const arrival = { projectId, intakeId, path: pathOf(archive, entry), depth: depth + 1 };
    const stream = await opened(entry, record);
    if (!stream) return;
    await settle(arrival, stream, { bytes: null, raw: null }, (settlement) => {
      // A full disk is not this entry's fault, and would only refuse all those behind it.
      if (settlement.error && isShortOfRoom(settlement.error)) {
        throw fromErrorFacts(settlement.error);
      }
      record(settlement);
    });
  }

  async function opened(entry: ZipEntry, record: (settlement: Settlement) => void) {
    try {
      return await entry.open();
    } catch (error) {
      if (!(error instanceof BijouError)) throw error;
      record({ state: 'failed', error: errorFacts(error) });
      return null;
    }
  }

  const find = (arrivalId: number) => db.intakes.arrival(arrivalId);
  return {
    basis: ({ subjectId }) => find(subjectId)?.archiveSha256 ?? null,
    start: () => undefined,
    async run(job, { signal, progress, commit }) {
      const archive = find(job.subjectId);
      if (!archive?.archiveSha256) return;
      const count = await withArchive(store.path(archive.archiveSha256), async (entries) => {
        await unpack(archive, entries, progress, signal);
        return entries.length;
      });
      commit(() =>
        conclude(
          archive,
          count === 0 ? { state: 'left-out', reason: 'empty-archive' } : { state: 'unpacked' },
        ),
      );
    },
    fail(job, error) {
      const archive = find(job.subjectId);
      if (!archive) return;
      const { archiveSha256 } = archive;
      // Nothing is wrong with the archive: it is kept, and somebody may have it unpacked again.
      if (isPassing(error) && archiveSha256) {
        db.intakes.settle(archive.id, { state: 'offered', error, archiveSha256 });
      } else {
        conclude(archive, { state: 'failed', error });
      }
    },
    cancel(job) {
      const archive = find(job.subjectId);
      if (archive) conclude(archive, { state: 'cancelled' });
    },
  };
}

/** An entry that points out of its archive is only named. */
function pathOf(archive: ArrivalRow, entry: ZipEntry): string {
  return entry.leftOut === 'unsafe-path' ? entry.path : pathInArchive(archive.path, entry.path);
}

function cancelled(): BijouError {
  return new BijouError('cancelled', 'Unpacking was cancelled.', 'Bring it in again.');
}
