import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { BijouError } from '@/core/errors';
import { fileTrouble } from './trouble';

/** Everything in a folder that is no folder, by its path with plain slashes. @throws not-found for what cannot be listed */
export async function filesIn(folder: string, inside = ''): Promise<string[]> {
  const entries = await readdir(join(folder, inside), { withFileTypes: true }).catch(
    (error: NodeJS.ErrnoException) => {
      throw new BijouError(
        'not-found',
        `The folder "${join(folder, inside)}" cannot be listed (${fileTrouble(error)}).`,
        'Check its name and permissions.',
      );
    },
  );
  const found: string[] = [];
  for (const entry of entries) {
    const path = `${inside}${entry.name}`;
    if (entry.isDirectory()) found.push(...(await filesIn(folder, `${path}/`)));
    else found.push(path);
  }
  return found.sort();
}
