import { access, constants, mkdir, stat } from 'node:fs/promises';
import { dirname, resolve } from 'node:path';
import { BijouError } from '@/core/errors';
import { fileTrouble } from './trouble';

/**
 * Makes the folder for results, with those above it, and sees that it can be written to. Step by step: what a
 * file system refuses is an error at once.
 * @throws not-allowed
 */
export async function makeOutFolder(named: string, option = 'out'): Promise<void> {
  const refused = (message: string) =>
    new BijouError('not-allowed', message, `Name another folder with --${option}.`);
  if (named.trim() === '') throw refused(`--${option} names no folder.`);
  const missing: string[] = [];
  let at = resolve(named);
  for (;;) {
    const found = await stat(at).catch((error: NodeJS.ErrnoException) => {
      if (error.code === 'ENOENT') return null;
      throw refused(`"${named}" cannot be a folder for results (${fileTrouble(error)}).`);
    });
    if (found?.isDirectory()) break;
    if (found) {
      const what = missing.length === 0 ? `"${named}"` : `"${at}"`;
      throw refused(`${what} is a file, and no folder for results.`);
    }
    missing.unshift(at);
    at = dirname(at);
  }
  try {
    for (const folder of missing) await mkdir(folder).catch(unlessThere);
    await access(resolve(named), constants.W_OK);
  } catch (error) {
    const verb = missing.length > 0 ? 'made' : 'written to';
    throw refused(
      `The folder "${named}" cannot be ${verb} (${fileTrouble(error as NodeJS.ErrnoException)}).`,
    );
  }
}

/** Another call may have made it meanwhile. */
function unlessThere(error: NodeJS.ErrnoException): void {
  if (error.code !== 'EEXIST') throw error;
}
