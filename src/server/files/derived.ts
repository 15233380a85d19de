import { rm, utimes } from 'node:fs/promises';
import { mostCacheBytes } from '../limits';

/**
 * Files that belong to one stored file and can be made again from it. Where the first is there, so are
 * the others that it needs: it is put in place last and goes first.
 */
export const derivedKinds = ['peaks', 'pcm.wav'] as const;
export type Derived = (typeof derivedKinds)[number];

/** What is derived from one stored file. */
interface Known {
  bytes: Partial<Record<Derived, number>>;
  /** Milliseconds since 1970. */
  usedAt: number;
}

/** When a file was used is written down at most so often. */
const TOUCH_MS = 60_000;

/**
 * What is kept of pictures and working copies: no more than there is room for, those that were used longest
 * ago going first. When one was used stands in the file's own time, so that it is known after a restart.
 */
export class DerivedFiles {
  /** By stored file, those used longest ago in front. */
  private readonly known = new Map<string, Known>();
  private readonly inUse = new Map<string, number>();
  private total = 0;

  constructor(private readonly path: (sha256: string, kind: Derived) => string) {}

  /** Tells of a file that is there; from the one used longest ago to the latest. */
  know(sha256: string, kind: Derived, bytes: number, usedAt: number): void {
    const before = this.known.get(sha256)?.bytes ?? {};
    this.total += bytes - (before[kind] ?? 0);
    this.known.delete(sha256);
    this.known.set(sha256, { bytes: { ...before, [kind]: bytes }, usedAt });
  }

  /** After a stored file was removed with everything that belongs to it. */
  forget(sha256: string): void {
    this.total -= sizeOf(this.known.get(sha256));
    this.known.delete(sha256);
  }

  /** Keeps some stored files, and what belongs to them, from being removed until the answer is called. */
  hold(hashes: readonly string[]): () => void {
    for (const sha256 of hashes) this.inUse.set(sha256, (this.inUse.get(sha256) ?? 0) + 1);
    return () => {
      for (const sha256 of hashes) {
        const left = (this.inUse.get(sha256) ?? 1) - 1;
        if (left > 0) this.inUse.set(sha256, left);
        else this.inUse.delete(sha256);
        this.touch(sha256);
      }
    };
  }

  isInUse(sha256: string): boolean {
    return this.inUse.has(sha256);
  }

  /** Keeps them while something works with them. */
  async using<T>(hashes: readonly string[], work: () => Promise<T>): Promise<T> {
    const letGo = this.hold(hashes);
    try {
      return await work();
    } finally {
      letGo();
    }
  }

  private touch(sha256: string): void {
    const found = this.known.get(sha256);
    if (!found) return;
    this.known.delete(sha256);
    this.known.set(sha256, found);
    const now = Date.now();
    if (now - found.usedAt < TOUCH_MS) return;
    found.usedAt = now;
    for (const kind of derivedKinds) {
      if (found.bytes[kind] === undefined) continue;
      void utimes(this.path(sha256, kind), now / 1_000, now / 1_000).catch(() => undefined);
    }
  }

  /** Removes what was used longest ago, until the rest has room. */
  async makeRoom(): Promise<void> {
    for (const [sha256] of this.known) {
      if (this.total <= mostCacheBytes()) return;
      if (this.inUse.has(sha256)) continue;
      this.forget(sha256);
      for (const kind of derivedKinds) await rm(this.path(sha256, kind), { force: true });
    }
  }
}

function sizeOf(known: Known | undefined): number {
  return Object.values(known?.bytes ?? {}).reduce((sum, bytes) => sum + bytes, 0);
}
