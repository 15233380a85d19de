import { existsSync } from 'node:fs';
import { BijouError, errorFacts, isShortOfRoom } from '@/core/errors';
import type { Context } from '../context';
import type { DeletionService } from './deleting';

/**
 * Makes what is written down agree with what is there, once at every start: work that nobody does is queued,
 * files that are gone are said to be gone, and files that nothing needs are removed.
 */
export async function reconcile(
  { db, store }: Pick<Context, 'db' | 'store'>,
  { carryOut }: DeletionService,
): Promise<void> {
  const isThere = (sha256: string) => existsSync(store.path(sha256));
  await carryOut();
  db.transaction(() => {
    for (const sound of db.sounds.unread()) {
      const { id, projectId, sourceSha256, error } = sound;
      if (db.jobs.isOpen('read', id)) continue;
      if (db.sources.isRead(sourceSha256)) db.sounds.setState(id, 'ready');
      else if (!isThere(sourceSha256)) db.sounds.setState(id, 'refused', errorFacts(lost()));
      // What took too long, or brought its process down again and again, waits until somebody wants it.
      else if (!error || isShortOfRoom(error)) db.jobs.add(projectId, 'read', id);
    }
    for (const { id, projectId } of db.packs.openOutputs()) {
      if (!db.jobs.isOpen('build', id)) db.jobs.add(projectId, 'build', id);
    }
    for (const { id, projectId } of db.intakes.unpacking()) {
      if (!db.jobs.isOpen('unpack', id)) db.jobs.add(projectId, 'unpack', id);
    }
    for (const sha256 of db.packs.files()) {
      if (!isThere(sha256)) db.packs.lose(sha256, errorFacts(lostOutput()));
    }
    db.packs.sweep();
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
