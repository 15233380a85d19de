import type { Context } from '../context';

/**
 * Letting stored files go. Who needs one no more says so in the transaction in which that becomes true;
 * whether really nobody does is asked again when it is carried out. A crash in between only delays it.
 */
export function deletionService({ db, store }: Pick<Context, 'db' | 'store'>) {
  /** Puts files on the list of what may go. Call inside of the transaction that drops what needed them. */
  function release(...hashes: readonly string[]): void {
    for (const sha256 of hashes) db.retention.ask(sha256);
    if (hashes.length > 0) db.afterCommit(() => void carryOut().catch(console.error));
  }

  let last: Promise<void> = Promise.resolve();

  /** Deletes what is on the list and needed by nobody. */
  function carryOut(): Promise<void> {
    last = last.catch(() => undefined).then(() => carryOutAll());
    return last;
  }

  async function carryOutAll(): Promise<void> {
    // The same bytes may just be arriving: then they wait for this, or this finds that they are needed.
    for (const sha256 of db.retention.asked()) await store.while(sha256, () => letGo(sha256));
  }

  async function letGo(sha256: string): Promise<void> {
    // What is just being read stays on the list until the next time.
    if (store.derived.isInUse(sha256)) return;
    if (!db.retention.isHeld(sha256)) {
      // The row goes first: a crash in between leaves a file that nobody needs, not a sound without one.
      db.sources.forget(sha256);
      await store.remove(sha256);
    }
    db.retention.settle(sha256);
  }

  return { release, carryOut };
}

export type DeletionService = ReturnType<typeof deletionService>;
