import { openDB, type DBSchema, type IDBPDatabase } from 'idb';

/** A file that is to be sent, kept by the browser in case the page is reloaded meanwhile. */
export interface Stashed {
  projectId: number;
  path: string;
  file: File;
}

interface Schema extends DBSchema {
  files: { key: number; value: Stashed };
}

/** Larger files would be copied for longer than it takes to send them. */
const MOST_BYTES = 64 * 2 ** 20;

let opened: Promise<IDBPDatabase<Schema>> | null = null;

/** One connection for the page: opening takes longer than what is then done. */
function database(): Promise<IDBPDatabase<Schema>> {
  const forget = () => (opened = null);
  opened ??= openDB<Schema>('bijou-sending', 1, {
    upgrade: (db) => void db.createObjectStore('files'),
    terminated: forget,
  });
  opened.catch(forget);
  return opened;
}

/** Puts files aside under the numbers of their arrivals. A browser that has no room goes without. */
export async function stash(files: ReadonlyMap<number, Stashed>): Promise<void> {
  try {
    const store = (await database()).transaction('files', 'readwrite').store;
    for (const [id, file] of files) {
      if (file.file.size <= MOST_BYTES) void store.put(file, id);
    }
    await store.transaction.done;
  } catch {
    // Without the stash a reload loses what has not been sent, and says so.
  }
}

export async function unstash(id: number): Promise<void> {
  await database()
    .then((db) => db.delete('files', id))
    .catch(() => undefined);
}

/** Everything that is put aside, by the numbers of the arrivals. */
export async function stashed(): Promise<Map<number, Stashed>> {
  try {
    const db = await database();
    const [keys, files] = await Promise.all([db.getAllKeys('files'), db.getAll('files')]);
    return new Map(keys.map((key, i) => [key, files[i]!]));
  } catch {
    return new Map();
  }
}
