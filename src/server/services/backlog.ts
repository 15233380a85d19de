import type { Context } from '../context';
import type { CellRowService } from './cellRows';

/** Working off what is stale and was too much for the change that made it so: a little at a time, behind all else. */
export function backlogService(
  { db, changed }: Pick<Context, 'db' | 'changed'>,
  { settleSlice }: Pick<CellRowService, 'settleSlice'>,
) {
  // Nothing is begun before everything is open, and nothing behind its end.
  let isStopped = true;
  let working: Promise<void> | null = null;

  const isOpen = () => !isStopped && db.staleCells.isAny();

  /** Goes on with what is stale, if anything is. */
  function workOff(): void {
    if (working || !isOpen()) return;
    working = workOffAll()
      // What is left is stale still, and is worked out by whoever looks at it.
      .catch((error: unknown) => console.error('Cells could not be worked out:', error))
      .finally(() => (working = null));
  }

  async function workOffAll(): Promise<void> {
    for (let isMore = true; isMore;) {
      await new Promise((others) => setImmediate(others));
      if (isStopped) return;
      const slice = settleSlice();
      for (const id of slice.projects) changed(id);
      isMore = slice.isMore;
    }
  }

  return {
    isOpen,
    workOff,
    /** Resolves when nothing is stale any more. */
    async done(): Promise<void> {
      while (isOpen()) {
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
