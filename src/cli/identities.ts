import { stat } from 'node:fs/promises';
import { STANDARD } from './inputs';

/** Files by what they are on the disk, whatever path, link or case of letters leads to them. */
export class Identities {
  private readonly known = new Set<string>();

  static async of(paths: readonly string[]): Promise<Identities> {
    const found = new Identities();
    for (const path of paths) if (path !== STANDARD) await found.add(path);
    return found;
  }

  async add(path: string): Promise<void> {
    const identity = await identityOf(path);
    if (identity) this.known.add(identity);
  }

  async has(path: string): Promise<boolean> {
    const identity = await identityOf(path);
    return identity !== null && this.known.has(identity);
  }
}

async function identityOf(path: string): Promise<string | null> {
  const found = await stat(path, { bigint: true }).catch(() => null);
  return found && `${found.dev} ${found.ino}`;
}
