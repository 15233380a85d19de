import { access, constants, mkdir, stat } from 'node:fs/promises';
import { dirname, resolve } from 'node:path';
import { BijouError } from '@/core/errors';

/**
 * Makes the folder for results, with those above it, and sees that it can be written to. Step by step: what a
 * file system refuses is an error at once.
 * @throws not-allowed
 */
export async function makeOutFolder(named: string): Promise<void> {
  if (named.trim() === '') throw refused('--out names no folder.');
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
    for (const folder of missing) await mkdir(folder);
    await access(resolve(named), constants.W_OK);
  } catch (error) {
    const verb = missing.length > 0 ? 'made' : 'written to';
    throw refused(
      `The folder "${named}" cannot be ${verb} (${fileTrouble(error as NodeJS.ErrnoException)}).`,
    );
  }
}

const reasons: Record<string, string> = {
  EACCES: 'it is not permitted',
  EPERM: 'it is not permitted',
  EROFS: 'the disk is read-only',
  ENOSPC: 'the disk is full',
  ENAMETOOLONG: 'its name is too long',
  ENOTDIR: 'a part of its path is a file',
  ELOOP: 'its links go round in circles',
  ENOENT: 'nothing can be made there',
};

/** Why a file system refuses something, for use inside of brackets. */
export function fileTrouble({ code = '' }: NodeJS.ErrnoException): string {
  return reasons[code] ?? code;
}

function refused(message: string): BijouError {
  return new BijouError('not-allowed', message, 'Name another folder with --out.');
}
