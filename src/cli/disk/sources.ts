import { realpath } from 'node:fs/promises';
import { basename, dirname, join, resolve, sep } from 'node:path';
import { BijouError } from '@/core/errors';
import type { Place } from '../inputs';
import { Identities } from './identities';

/** Everything that a call reads: none of it is ever replaced by what the call writes, whatever link leads to it. */
export class Sources {
  private constructor(
    private readonly files: Identities,
    /** Real paths of folders of which every file is read. */
    private readonly folders: readonly string[],
  ) {}

  static async of(files: readonly Place[], folders: readonly string[] = []): Promise<Sources> {
    return new Sources(await Identities.of(files), await Promise.all(folders.map(realPlace)));
  }

  /** Whether a file is one of them; what lies in the folder for results, below a folder of sources, is none. */
  async hold(place: string, out: string | null = null): Promise<boolean> {
    const real = await realPlace(place);
    const results = out === null ? null : await realPlace(out);
    const isInFolder = this.folders.some(
      (folder) => isBelow(real, folder) && !(results && isOwnFolder(results, folder, real)),
    );
    return isInFolder || (await this.files.has(place));
  }

  /**
   * For a file or folder that is written as a whole.
   * @throws not-allowed where it is one of them, lies in one of the folders, or has one of them in it
   */
  async refuse(place: string): Promise<void> {
    const real = await realPlace(place);
    const isAbove = [...this.folders, ...this.files.realPaths].some(
      (source) => source === real || isBelow(source, real),
    );
    if (!isAbove && !(await this.hold(place))) return;
    throw new BijouError(
      'not-allowed',
      `"${place}" is read by this call, and would be replaced by what it writes.`,
      'Choose another place with --out.',
    );
  }
}

/** Where a path really leads, although its last parts may not be there yet. */
async function realPlace(path: string): Promise<string> {
  const whole = resolve(path);
  try {
    return await realpath(whole);
  } catch {
    const above = dirname(whole);
    return above === whole ? whole : join(await realPlace(above), basename(whole));
  }
}

const isBelow = (path: string, folder: string) =>
  path.startsWith(folder.endsWith(sep) ? folder : folder + sep);

/** Whether a file lies in a folder of results that itself lies below the folder of sources. */
function isOwnFolder(out: string, folder: string, real: string): boolean {
  return isBelow(out, folder) && isBelow(real, out);
}
