import { readFile, rename } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import * as yup from 'yup';
import { BijouError } from '@/core/errors';
import { encodeText } from '@/core/formats/bits';
import { syncFolder, writeTemporary } from '@/server/files/bytes';
import { whatIsAt } from '../disk/present';
import { dropTemporary, temporaryIn } from '../disk/temporaries';

/** A larger one is none of ours. */
const MOST_BYTES = 512e6;

/** SHA-256 of each file by its path; of a zip by its own name. */
type Hashes = Readonly<Record<string, string>>;

const hashes = yup
  .object()
  .test((value) => Object.values(value ?? {}).every((one) => typeof one === 'string'))
  .optional();
const recordSchema = yup.object({ pack: hashes, next: hashes });

/** Held by the one call that exchanges what lies at a place. */
export const lockOf = (place: string) => join(dirname(place), `.${basename(place)}.bijou-lock`);

/** What Bijou has put at a place: the one proof that what lies there may be replaced. It lies beside it, hidden. */
export class PackRecord {
  private constructor(
    private readonly path: string,
    /** What was put there, and what a call was about to put there that was ended. */
    private known: readonly Hashes[],
  ) {}

  /** Of the folder or zip at a path. @throws not-allowed where something else has the record’s name */
  static async of(place: string): Promise<PackRecord> {
    const path = join(dirname(place), `.${basename(place)}.bijou.json`);
    const found = await whatIsAt(path);
    if (!found) return new PackRecord(path, []);
    if (!found.isFile() || found.size > MOST_BYTES) throw foreign(path);
    try {
      const { pack, next } = recordSchema.validateSync(JSON.parse(await readFile(path, 'utf8')), {
        strict: true,
      });
      return new PackRecord(path, [pack ?? {}, next ?? {}] as Hashes[]);
    } catch {
      throw foreign(path);
    }
  }

  /** Whether there is one. */
  get isThere(): boolean {
    return this.known.length > 0;
  }

  /** Whether Bijou has put these bytes there. */
  knows(path: string, sha256: string): boolean {
    return this.known.some((files) => Object.hasOwn(files, path) && files[path] === sha256);
  }

  /** Every path that it speaks of. */
  get paths(): string[] {
    return this.known.flatMap((files) => Object.keys(files));
  }

  /** Writes down what is there and what will be put there: whether it comes to that or not, both are known. */
  async expect(there: Hashes, next: Hashes): Promise<void> {
    this.known = [there, next];
    await this.write({ pack: there, next });
  }

  /** Writes down that it has been put there. */
  async settle(): Promise<void> {
    this.known = this.known.slice(-1);
    await this.write({ pack: this.known[0]! });
  }

  private async write(record: { pack: Hashes; next?: Hashes }): Promise<void> {
    const temporary = temporaryIn(dirname(this.path));
    try {
      const text = encodeText(`${JSON.stringify(record)}\n`);
      await writeTemporary(temporary, (sink) => sink.write(text));
      await rename(temporary, this.path);
      await syncFolder(dirname(this.path));
    } finally {
      await dropTemporary(temporary);
    }
  }
}

function foreign(path: string): BijouError {
  return new BijouError(
    'not-allowed',
    `"${path}" is damaged, or was not written by Bijou.`,
    'Take it away: then what lies at --out counts as somebody else’s.',
  );
}
