import { existsSync } from 'node:fs';
import { BijouError, errorFacts } from '@/core/errors';
import type { House } from '../jobs/kind';
import { jobKinds } from '../jobs/kinds';
import type { EncodingService } from './encodings';

/**
 * Makes what is written down agree with what is there, once at every start: work that nobody does is queued,
 * files that are gone are said to be gone, and files that nothing needs are removed.
 */
export async function reconcile(house: House, encodings: EncodingService): Promise<void> {
  const { db, store } = house.context;
  const isThere = (sha256: string) => existsSync(store.path(sha256));
  await house.deletions.carryOut();
  db.transaction(() => {
    for (const { id, sourceSha256 } of db.sounds.unread()) {
      if (db.sources.isRead(sourceSha256)) db.sounds.setState(id, 'ready');
      else if (!isThere(sourceSha256)) db.sounds.setState(id, 'refused', errorFacts(lost()));
    }
    for (const sha256 of db.encodings.files()) {
      if (!isThere(sha256)) db.encodings.lose(sha256, errorFacts(lostOutput()));
    }
    db.packs.dropSuperseded();
    encodings.sweep();
    for (const { kind, rank, waiting } of jobKinds) {
      for (const { id, projectId } of waiting?.(house) ?? []) {
        if (!db.jobs.isOpen(kind, id)) db.jobs.add(projectId, kind, id, rank);
      }
    }
    for (const sha256 of db.sources.loose()) {
      if (!db.retention.isHeld(sha256)) db.sources.forget(sha256);
    }
  });
  await store.sweep(db.retention.held());
}

function lost(): BijouError {
  return new BijouError(
    'not-found',
    'Its file is not in the data folder any more.',
    'Bring it in again.',
  );
}

function lostOutput(): BijouError {
  return new BijouError(
    'not-found',
    'The finished file is not in the data folder any more.',
    'Build it again.',
  );
}
