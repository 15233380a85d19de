import { basename, extname, join, resolve } from 'node:path';
import { filling, renameWords, unknownWords } from '@/core/collect/rename';
import { BijouError } from '@/core/errors';
import type { WriterKind } from '@/core/formats/types';
import { safeFileName } from '@/core/pack/names';
import type { Shape } from '@/core/recipe/types';
import { alreadyThere } from '@/server/files/bytes';
import { Identities } from '../disk/identities';
import { isThere } from '../disk/present';
import { Sources } from '../disk/sources';
import { STANDARD } from '../inputs';
import type { ListedFile, Listing } from '../listing';
import { wrong } from './numbers';
import type { ConvertOptions } from './options';

/** Systems whose disks take names for the same that differ only in upper and lower case. */
const isCaseBlind = process.platform === 'win32' || process.platform === 'darwin';

/** What a call says of names. */
type NameOptions = Pick<ConvertOptions, 'out' | 'overwrite' | 'name' | 'suffix'>;

/** What the name of a file says of what is in it. */
type NamedKind = Pick<WriterKind, 'extension' | 'format' | 'codec'>;

/** Where the results of one call go, given out in the order of its files. */
export class Names {
  /** Of this call; all that is remembered of every file. */
  private readonly taken = new Set<string>();
  private readonly fill: ((sound: Parameters<ReturnType<typeof filling>>[0]) => string) | null;

  /** What the call reads; known once it has been told. */
  private sources: Sources | null = null;

  /** @throws wrong-call for a pattern that cannot be filled */
  constructor(private readonly options: NameOptions) {
    this.fill = options.name === undefined ? null : filling(checkedPattern(options.name));
  }

  /** Sees to it that no source of the call is written over. */
  async protect(listing: Listing): Promise<void> {
    this.sources = await Sources.of(listing.alone, listing.folders);
  }

  /** Whether a file is a result of this call. */
  has(place: string): boolean {
    return this.taken.has(keyOf(place));
  }

  /**
   * The place of the next result; numbered where another result of the call has that name.
   * @throws not-allowed, already-there
   */
  async next(
    file: ListedFile,
    mark: string,
    kind: NamedKind,
    { rateHz, channelCount }: Shape,
  ): Promise<{ output: string; isNumbered: boolean }> {
    const { out, overwrite } = this.options;
    if (out === STANDARD) return { output: STANDARD, isNumbered: false };
    const base = this.baseOf(file, mark, kind, rateHz, channelCount);
    const { extension } = kind;
    for (let n = 1; ; n++) {
      const name = `${n === 1 ? base : `${base}-${n}`}.${extension}`;
      const output = join(out, file.folder, name);
      const place = resolve(output);
      const key = keyOf(place);
      if (this.taken.has(key)) continue;
      if (await isThere(place)) {
        await this.refuseSource(file, place, output);
        if (!overwrite) throw alreadyThere(output);
      }
      this.taken.add(key);
      return { output, isNumbered: n > 1 };
    }
  }

  private baseOf(
    { path, folder }: ListedFile,
    mark: string,
    { format, codec }: NamedKind,
    rateHz: number,
    channels: number,
  ) {
    const { suffix = '' } = this.options;
    const fileName = basename(path);
    const plain = path === STANDARD ? 'stdin' : basename(path, extname(path));
    const facts = { sampleRateHz: rateHz, channels, container: format, codec };
    const filled = this.fill?.({ id: 0, name: plain, fileName, group: folder, facts });
    const name = filled === undefined ? plain : safeFileName(filled);
    // A suffix is part of a name, never a way to another folder.
    return `${name}${mark}${suffix.replace(/[/\\]/g, '-')}`;
  }

  private async refuseSource(file: ListedFile, place: string, output: string): Promise<void> {
    if (!(await this.sources?.hold(place, this.options.out))) return;
    const isOwn = await (await Identities.of([file.place])).has(place);
    throw new BijouError(
      'not-allowed',
      isOwn
        ? 'The result would replace its own source.'
        : `The result would replace "${output}", another source of this call.`,
      'Choose another folder with --out, or a --suffix.',
    );
  }
}

function keyOf(place: string): string {
  return isCaseBlind ? place.toLowerCase() : place;
}

function checkedPattern(pattern: string): string {
  const unknown = unknownWords(pattern);
  if (pattern.trim() !== '' && unknown.length === 0) return pattern;
  const words = Object.keys(renameWords).map((word) => `{${word}}`);
  throw wrong(
    unknown.length > 0 ? `--name knows no {${unknown[0]}}.` : '--name is empty.',
    `Use ${words.join(' ')}, and {n:3} for 001.`,
  );
}
