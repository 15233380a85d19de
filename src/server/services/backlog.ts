import type { Context } from '../context';
import type { CellRowService } from './cellRows';
import type { PackService } from './packs';

/**
 * Working off what was too much for the change that began it: cells that are stale, and files that are to be built. A
 * little at a time, behind all else.
 */
export function backlogService(
  { db, changed }: Pick<Context, 'db' | 'changed'>,
  { settleSlice }: Pick<CellRowService, 'settleSlice'>,
  { canPlace, placeSlice }: Pick<PackService, 'canPlace' | 'placeSlice'>,
) {
  // Nothing is begun before everything is open, and nothing behind its end.
  let isStopped = true;
  let working: Promise<void> | null = null;

  const isOpen = () => !isStopped && (db.staleCells.isAny() || db.orders.isAny());
  const canGoOn = () => !isStopped && (db.staleCells.isAny() || canPlace());

  /** Goes on with it, if that can be done now. Call behind every change. */
  function workOff(): void {
    if (working || !canGoOn()) return;
    working = workOffAll()
      // What is left is there still: cells are worked out by whoever looks at them, and the next change goes on.
      .catch((error: unknown) => console.error('What was left could not be worked off:', error))
      .finally(() => (working = null));
  }

  async function workOffAll(): Promise<void> {
    // In turn: neither waits for all of the other.
    for (let open = [placeSlice, settleSlice]; open.length > 0;) {
      const left: typeof open = [];
      for (const work of open) {
        await new Promise((others) => setImmediate(others));
        if (isStopped) return;
        const { isMore, projects } = work();
        for (const id of projects) changed(id);
        if (isMore) left.push(work);
      }
      open = left;
    }
  }

  return {
    isOpen,
    workOff,
    /** Resolves when nothing is left, or only what waits for jobs. */
    async done(): Promise<void> {
      while (canGoOn()) {
        workOff();
        await working;
      }
    },
    start(): void {
      isStopped = false;
      workOff();
    },
    async stop(): Promise<void> {
      isStopped = true;
      await working;
    },
  };
}
