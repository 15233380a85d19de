import { dirname, extname, join } from 'node:path';
import type { ErrorFacts } from '@/core/errors';
import { diskKey } from '@/core/pack/diskKey';
import { isThere, whatIsAt } from '../disk/present';
import { Sources } from '../disk/sources';
import { fileError } from '../disk/trouble';
import { wrongWay } from './judging';
import type { Entry } from './plan';
import type { BuildRecord } from './record';

/** A file that is wanted, and where it goes. */
export interface PlacedEntry {
  entry: Entry;
  /** null where somebody else's file stays. */
  place: string | null;
  /** Why nothing may be written there. */
  trouble: ErrorFacts | null;
}

/** Where the files of a build go, given what lies in their folder: nothing of others is written over or led through. */
export class Places {
  private sources: Promise<Sources> | null = null;

  constructor(
    private readonly record: BuildRecord,
    private readonly out: string,
    /** What is built from: nothing in it is ever written over. */
    private readonly dataDir: string,
  ) {}

  /** Ours are replaced, those of others as was chosen. What is new counts as ours from here on, whatever happens. */
  async of(entries: readonly Entry[], isDry: boolean): Promise<PlacedEntry[]> {
    const ours = new Set(this.record.paths);
    const taken = new Set(entries.map(({ path }) => diskKey(path)));
    const placed: PlacedEntry[] = [];
    for (const entry of entries) {
      const { path, key, obstacle } = entry;
      if (obstacle) {
        placed.push({ entry, place: path, trouble: null });
        continue;
      }
      const isForeign = !ours.has(path) && (await isThere(join(this.out, path)));
      const place = isForeign ? await this.besides(path, taken, ours) : path;
      const trouble = place === null ? null : await this.check(place).then(() => null, fileError);
      const isNew = place !== null && !trouble && this.record.at(place)?.key !== key;
      if (isNew && !isDry) this.record.set(place, { key });
      placed.push({ entry, place, trouble });
    }
    return placed;
  }

  /** Another place for what somebody else's file is in the way of; null where that one stays. */
  private async besides(path: string, taken: Set<string>, ours: ReadonlySet<string>) {
    const { existing } = this.record;
    if (existing === 'replace') return path;
    if (existing !== 'number') return null;
    const ending = extname(path);
    const base = path.slice(0, path.length - ending.length);
    for (let n = 2; ; n++) {
      const other = `${base}-${n}${ending}`;
      if (ours.has(other)) return other;
      if (taken.has(diskKey(other)) || (await isThere(join(this.out, other)))) continue;
      taken.add(diskKey(other));
      return other;
    }
  }

  /** @throws not-allowed where a link would lead out of the folder, or to what is being read */
  async check(path: string): Promise<void> {
    for (let above = dirname(path); above !== '.'; above = dirname(above)) {
      const found = await whatIsAt(join(this.out, above));
      if (found && !found.isDirectory()) throw wrongWay(above, found.isSymbolicLink());
    }
    const { dataDir } = this;
    this.sources ??= Sources.of([join(dataDir, 'bijou.db')], [join(dataDir, 'files')]);
    await (await this.sources).refuse(join(this.out, path));
  }
}
