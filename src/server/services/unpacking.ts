import { pathInArchive } from '@/core/collect/arrivals';
import { BijouError, errorFacts } from '@/core/errors';
import type { Context } from '../context';
import type { ArrivalRow, Settlement } from '../db/intakes';
import { withArchive, type ZipEntry } from '../files/zip';
import type { JobHandler } from '../jobs/runner';
import type { IntakeService } from './intakes';

/** Entries without sound are written down so many at a time. */
const BATCH = 500;

/** Unpacking an archive: each of its files becomes an arrival of its own. */
export function unpackHandler(
  { db, store, changed }: Context,
  settle: IntakeService['settle'],
): JobHandler {
  /** Where an archive ends, unpacked or not, its bytes are of no use any more. */
  async function conclude(arrival: ArrivalRow, settlement: Settlement): Promise<void> {
    db.intakes.settle(arrival.id, settlement);
    const sha256 = arrival.archiveSha256;
    if (sha256 && !db.intakes.archives().includes(sha256)) await store.remove(sha256);
  }

  async function unpack(
    archive: ArrivalRow,
    entries: readonly ZipEntry[],
    progress: (share: number) => void,
    signal: AbortSignal,
  ): Promise<void> {
    const settled: { path: string; bytes: number; settlement: Settlement }[] = [];
    const flush = () => {
      db.transaction(() => {
        for (const { path, bytes, settlement } of settled.splice(0)) {
          const { intakeId, depth, id: archiveId } = archive;
          const id = db.intakes.add(intakeId, { path, bytes, depth: depth + 1, archiveId });
          db.intakes.settle(id, settlement);
        }
      });
      changed(archive.projectId);
    };
    try {
      // After a crash it goes on behind what has been dealt with.
      for (let at = db.intakes.unpacked(archive.id); at < entries.length; at++) {
        if (signal.aborted) throw cancelled();
        const entry = entries[at]!;
        const settlement = await settleEntry(archive, entry);
        settled.push({ path: pathOf(archive, entry), bytes: entry.bytes, settlement });
        if (settlement.state !== 'left-out' || settled.length >= BATCH) flush();
        progress((at + 1) / entries.length);
      }
    } finally {
      flush();
    }
  }

  async function settleEntry(archive: ArrivalRow, entry: ZipEntry): Promise<Settlement> {
    if (entry.leftOut) return { state: 'left-out', reason: entry.leftOut };
    const { projectId, intakeId, depth } = archive;
    const path = pathOf(archive, entry);
    try {
      const bytes = await entry.open();
      return await settle({ projectId, intakeId, path, depth: depth + 1 }, bytes, null);
    } catch (error) {
      if (!(error instanceof BijouError)) throw error;
      return { state: 'failed', error: errorFacts(error) };
    }
  }

  const find = (arrivalId: number) => db.intakes.arrival(arrivalId);
  return {
    usesThread: false,
    start: () => undefined,
    async run(job, { signal, progress }) {
      const archive = find(job.subjectId);
      if (!archive?.archiveSha256) return;
      await withArchive(store.path(archive.archiveSha256), (entries) =>
        unpack(archive, entries, progress, signal),
      );
      await conclude(archive, { state: 'unpacked' });
    },
    async fail(job, error) {
      const archive = find(job.subjectId);
      if (archive) await conclude(archive, { state: 'failed', error });
    },
    async cancel(job) {
      const archive = find(job.subjectId);
      if (archive) await conclude(archive, { state: 'cancelled' });
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
