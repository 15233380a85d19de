import DataLoader from 'dataloader';

/** What is wanted within this time is asked for together. */
const TOGETHER_MS = 8;

/**
 * Fetches things of a project by their ids, those that are wanted at the same time in one question. What is known
 * is not kept here.
 */
export function inBatches<T>(
  most: number,
  ask: (projectId: number, ids: readonly number[]) => Promise<ReadonlyMap<number, T>>,
): (projectId: number, id: number) => Promise<T | null> {
  const loaders = new Map<number, DataLoader<number, T | null>>();
  const loaderOf = (projectId: number) => {
    const loader = new DataLoader<number, T | null>(
      async (ids) => {
        const found = await ask(projectId, ids);
        return ids.map((id) => found.get(id) ?? null);
      },
      {
        cache: false,
        maxBatchSize: most,
        batchScheduleFn: (send) => void setTimeout(send, TOGETHER_MS),
      },
    );
    loaders.set(projectId, loader);
    return loader;
  };
  return (projectId, id) => (loaders.get(projectId) ?? loaderOf(projectId)).load(id);
}
