import type { Stats } from 'node:fs';
import { lstat } from 'node:fs/promises';

/**
 * What stands at a path, links not followed; null only where there is certainly nothing.
 * @throws whatever else the file system answers: what cannot be looked at is not nothing
 */
export async function whatIsAt(path: string): Promise<Stats | null> {
  try {
    return await lstat(path);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return null;
    throw error;
  }
}

/** Whether something has that name, be it a link that leads nowhere. */
export async function isThere(path: string): Promise<boolean> {
  return lstat(path).then(
    () => true,
    ({ code }: NodeJS.ErrnoException) => code !== 'ENOENT' && code !== 'ENOTDIR',
  );
}
