import { open, opendir, stat } from 'node:fs/promises';
import type { Dirent } from 'node:fs';
import { basename, dirname, resolve, sep } from 'node:path';
import { leftOutByName, splitPath } from '@/core/collect/arrivals';
import { BijouError } from '@/core/errors';
import { decodeText } from '@/core/formats/bits';
import { HEAD_BYTES, isMeantAsSound } from '@/core/formats/open';
import { plural } from '@/core/words';
import { rawPlace } from './disk/rawNames';
import { STANDARD, type Place } from './inputs';
import { fileTrouble } from './disk/trouble';
import { harmlessName, say } from './output';

/** A file to look at, with its place below the folder that was named. */
export interface ListedFile {
  /** For people: file systems hold names that are no text. */
  path: string;
  /** As short as is clear, for what is said of it. */
  shown: string;
  /** What the file system calls it. */
  place: Place;
  /** Folders between the one that was named and the file; "" for a file that was named itself. */
  folder: string;
  /** A pattern that nothing fits stands here with its error. */
  error?: BijouError;
}

/** What a call names: files, folders whose sounds are meant, and patterns. */
interface Named {
  path: string;
  kind: 'file' | 'folder' | 'pattern';
  /** What the file system calls it; of a pattern, the folder in which it looks. */
  place: Place;
  /** The folder in which a pattern looks, and the rest of it. */
  base: string;
  glob: string;
}

export class Listing {
  private constructor(
    readonly named: readonly Named[],
    /** Folder of the results: what is in it is no source. */
    private readonly out: string | null,
    /** Whether a file is a result of this very call. */
    private readonly isResult: (place: string) => boolean,
  ) {}

  static async of(
    named: readonly string[],
    {
      out = null,
      isResult = () => false,
    }: { out?: string | null; isResult?(path: string): boolean } = {},
  ): Promise<Listing> {
    return new Listing(await Promise.all(named.map(recognised)), out && resolve(out), isResult);
  }

  /** Whether it is known without looking that there is one file. */
  get isSingle(): boolean {
    return this.named.length === 1 && this.named[0]!.kind === 'file';
  }

  /** Files that are named themselves. */
  get alone(): Place[] {
    return this.named.filter(({ kind }) => kind === 'file').map(({ place }) => place);
  }

  /** Folders below which every sound is a source. */
  get folders(): string[] {
    return this.named.flatMap(({ kind, base }) => (kind === 'file' ? [] : [resolve(base)]));
  }

  /**
   * The files in order: of every folder its sounds sorted by name, without what is hidden or no sound, which is
   * counted on standard error. Links are not followed. Nothing is kept but the folders that are gone through.
   */
  async *files(isQuiet = false): AsyncGenerator<ListedFile> {
    const isShort = new Set(this.alone.map((place) => dirname(String(place)))).size === 1;
    for (const one of this.named) {
      if (one.kind === 'file') {
        const { path, place } = one;
        yield { path, shown: isShort ? basename(path) : path, place, folder: '' };
      } else {
        yield* this.below(one, isQuiet);
      }
    }
  }

  private async *below({ path, kind, place: start, base, glob }: Named, isQuiet: boolean) {
    const fits = kind === 'pattern' ? await matcher(glob) : null;
    const at = Buffer.concat([Buffer.from(start), Buffer.from(base.endsWith('/') ? '' : '/')]);
    const left: Left = { files: 0, results: 0 };
    let found = 0;
    const deepest = fits && !glob.includes('**') ? glob.split('/').length - 1 : Infinity;
    for await (const { name, place, error } of this.walk(at, left, deepest)) {
      if (error) {
        found++;
        const shown = name === '' ? path : name;
        yield { path: `${at}${name}`, shown, place: path, folder: '', error };
        continue;
      }
      const plain = name.split('\\').join('/');
      if (fits && !fits(plain)) continue;
      if (!place || leftOutByName(plain) !== null || !(await isSound(place, name))) {
        left.files++;
        continue;
      }
      found++;
      // What stands in the folder itself needs no "./" in front.
      const shownBase = kind === 'pattern' && base === '.' ? '' : String(at);
      yield { path: `${shownBase}${name}`, shown: name, place, folder: splitPath(plain).folder };
    }
    if (found === 0 && fits) {
      yield { path, shown: path, place: path, folder: '', error: nothingFits(path) };
    }
    if (isQuiet) return;
    if (found === 0 && !fits) say(`${harmlessName(path)}: there is no sound in it.`);
    if (left.files > 0 && (!fits || found > 0)) {
      say(
        `${harmlessName(path)}: ${plural(left.files, 'file')} left out: hidden, linked, or no sound.`,
      );
    }
    if (left.results > 0)
      say(`${harmlessName(path)}: the folder for the results in it was left out.`);
  }

  /** Everything below a folder: names below it for people, and the places of plain files. */
  private async *walk(
    folder: Buffer,
    left: Left,
    deepest: number,
    prefix = '',
  ): AsyncGenerator<{ name: string; place: Buffer | null; error?: BijouError }> {
    for await (const entry of entriesOf(folder)) {
      if (entry instanceof BijouError) {
        yield { name: prefix, place: null, error: entry };
        continue;
      }
      const name = prefix + decodeText(entry.name);
      const place = Buffer.concat([folder, entry.name]);
      const path = resolve(place.toString());
      if (entry.isDirectory()) {
        // The named folder may hold the results as well; a folder of results below it holds nothing else.
        if (path === this.out) left.results++;
        else if (deepest > 0) {
          yield* this.walk(Buffer.concat([place, Buffer.from('/')]), left, deepest - 1, `${name}/`);
        }
      } else if (!this.isResult(path)) {
        yield { name, place: entry.isFile() ? place : null };
      }
    }
  }
}

type Entry = Dirent<Buffer>;

/** What is no source of the call. */
interface Left {
  files: number;
  results: number;
}

/** Entries that are sorted; a larger folder is taken as it comes. */
const MOST_SORTED = 50_000;

async function* entriesOf(folder: Buffer): AsyncGenerator<Entry | BijouError> {
  try {
    const opened = await opendir(folder, {
      encoding: 'buffer' as BufferEncoding,
      bufferSize: 1_024,
    });
    const first: Entry[] = [];
    let isSorted = true;
    for await (const found of opened) {
      const entry = found as unknown as Entry;
      if (!isSorted) yield entry;
      else if (first.push(entry) > MOST_SORTED) {
        isSorted = false;
        yield* first.splice(0);
      }
    }
    if (isSorted) yield* sorted(first);
  } catch (error) {
    yield unreadable(error as NodeJS.ErrnoException);
  }
}

function unreadable(error: NodeJS.ErrnoException): BijouError {
  return new BijouError(
    'not-found',
    `The folder cannot be looked through (${fileTrouble(error)}).`,
    'Check its permissions.',
  );
}

const byName = new Intl.Collator('en', { numeric: true });

function sorted(entries: readonly Entry[]): Entry[] {
  return entries
    .map((entry) => ({ entry, name: decodeText(entry.name) }))
    .sort((a, b) => byName.compare(a.name, b.name))
    .map(({ entry }) => entry);
}

const MAGIC = /[*?{}[\]]/;

async function recognised(path: string): Promise<Named> {
  const place = (await rawPlace(path)) ?? path;
  const found = path === STANDARD ? null : await stat(place).catch(() => null);
  if (found?.isDirectory()) return { path, kind: 'folder', place, base: path, glob: '' };
  if (found || path === STANDARD || !MAGIC.test(path)) {
    return { path, kind: 'file', place, base: path, glob: '' };
  }
  const parts = path.split(sep === '\\' ? /[/\\]/ : '/');
  const fixed = parts.findIndex((part) => MAGIC.test(part));
  const base = parts.slice(0, fixed).join('/');
  const start = base === '' ? (path.startsWith('/') ? '/' : '.') : base;
  return {
    path,
    kind: 'pattern',
    place: start,
    base: start,
    glob: parts.slice(fixed).join('/'),
  };
}

async function matcher(glob: string): Promise<(name: string) => boolean> {
  const { default: picomatch } = await import('picomatch');
  return picomatch(glob);
}

function nothingFits(pattern: string): BijouError {
  return new BijouError(
    'not-found',
    `No sound fits the pattern "${pattern}".`,
    'Check the pattern and the folder; ** goes into folders.',
  );
}

/** What cannot be opened is listed by its name, and said when its turn comes. */
async function isSound(place: Buffer, name: string): Promise<boolean> {
  const head = new Uint8Array(HEAD_BYTES);
  const file = await open(place, 'r').catch(() => null);
  if (!file) return isMeantAsSound(head.subarray(0, 0), name);
  try {
    const { bytesRead } = await file.read(head, 0, HEAD_BYTES, 0);
    return isMeantAsSound(head.subarray(0, bytesRead), name);
  } finally {
    await file.close();
  }
}

/** How many files there will be and how large they are, as far as endings tell. */
export async function measureListing(listing: Listing): Promise<{ files: number; bytes: number }> {
  const total = { files: 0, bytes: 0 };
  for await (const { place } of listing.files(true)) {
    if (place === STANDARD) continue;
    total.files++;
    total.bytes += await stat(place).then(
      ({ size }) => size,
      () => 0,
    );
  }
  return total;
}
