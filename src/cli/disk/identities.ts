import { realpath, stat } from 'node:fs/promises';
import { STANDARD, type Place } from '../inputs';

/** Files by what they are on the disk, whatever path, link or case of letters leads to them. */
export class Identities {
  private readonly known = new Map<string, string>();

  static async of(paths: readonly Place[]): Promise<Identities> {
    const found = new Identities();
    for (const path of paths) if (path !== STANDARD) await found.add(path);
    return found;
  }

  async add(path: Place): Promise<void> {
    const identity = await identityOf(path);
    if (identity) this.known.set(identity, await realpath(path).catch(() => String(path)));
  }

  async has(path: Place): Promise<boolean> {
    const identity = await identityOf(path);
    return identity !== null && this.known.has(identity);
  }

  /** Where each lies, links followed. */
  get realPaths(): string[] {
    return [...this.known.values()];
  }
}

async function identityOf(path: Place): Promise<string | null> {
  const found = await stat(path, { bigint: true }).catch(() => null);
  return found && `${found.dev} ${found.ino}`;
}
