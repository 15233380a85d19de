import { readFile, rename } from 'node:fs/promises';
import { join } from 'node:path';
import * as yup from 'yup';
import { BijouError } from '@/core/errors';
import { encodeText } from '@/core/formats/bits';
import { syncFolder, writeTemporary } from '@/server/files/bytes';
import type { BuiltFacts } from '../batch/tasks';
import { hashOfFile } from '../disk/copies';
import { withLock } from '../disk/lock';
import { isThere, whatIsAt } from '../disk/present';
import { dropTemporary, temporaryIn } from '../disk/temporaries';
import { fileTrouble } from '../disk/trouble';

/** What is done about files that somebody else has put where results belong. */
export const existingWays = ['keep', 'replace', 'number'] as const;
export type Existing = (typeof existingWays)[number];

/** The one record of what was built into a folder. */
const RECORD = '.bijou.json';
const LOCK = '.bijou-lock';
const VERSION = 1;
/** A larger one is none of ours. */
const MOST_BYTES = 512e6;

/** A file that was built here: by what, and how it was left. */
export interface RecordedFile {
  /** Of its plan. */
  key: string;
  /** Left out until it is complete. */
  made?: {
    sha256: string;
    bytes: number;
    /** When its bytes were written, as the file system says it. */
    changedMs: number;
    /** When anything about it was changed, which nobody can set back; left out by older versions. */
    statusMs?: number;
    found: BuiltFacts;
    warnings: string[];
  };
}

const recordSchema = yup.object({
  version: yup.number().integer().required(),
  existing: yup
    .mixed<Existing>()
    .oneOf([...existingWays])
    .optional(),
  files: yup.object().required(),
});

/** Remembers what a folder holds of earlier builds, so that only what is other is built again. */
export class BuildRecord {
  private isWriting: Promise<void> = Promise.resolve();
  /** What this call says itself, whatever others write down meanwhile. */
  private readonly own = new Set<string>();
  private chosen: Existing | undefined;
  /** Whether more is known than is written down. */
  isChanged = false;

  private constructor(
    private readonly folder: string,
    private known: Known,
  ) {}

  /** @throws not-allowed for a record of a newer Bijou, or one that cannot be read */
  static async of(folder: string): Promise<BuildRecord> {
    return new BuildRecord(folder, await readRecord(folder));
  }

  get existing(): Existing | undefined {
    return this.chosen ?? this.known.existing;
  }

  choose(existing: Existing): void {
    this.chosen = existing;
  }

  /** Everything that was built here, by its path inside of the folder. */
  get paths(): string[] {
    return [...this.known.files.keys()];
  }

  at(path: string): RecordedFile | undefined {
    return this.known.files.get(path);
  }

  set(path: string, file: RecordedFile): void {
    this.own.add(path);
    this.isChanged = true;
    this.known.files.set(path, file);
  }

  /** A file that has not been made is not ours, unless something is there: it may be, of a call that was ended. */
  async giveUp(path: string): Promise<void> {
    if (this.at(path)?.made || (await isThere(join(this.folder, path)))) return;
    this.own.add(path);
    this.isChanged = true;
    this.known.files.delete(path);
  }

  /**
   * Whether a file is there as it was left. Its bytes are read again where anything about it was changed since, be it
   * that its time was set back.
   */
  async isAsLeft(path: string): Promise<boolean> {
    const made = this.at(path)?.made;
    if (!made) return false;
    const place = join(this.folder, path);
    const found = await whatIsAt(place).catch(() => null);
    if (!found?.isFile() || found.size !== made.bytes) return false;
    if (found.mtimeMs !== made.changedMs) return false;
    if (found.ctimeMs === made.statusMs) return true;
    if ((await hashOfFile(place))?.sha256 !== made.sha256) return false;
    this.set(path, { ...this.at(path)!, made: { ...made, statusMs: found.ctimeMs } });
    return true;
  }

  /** Decides where files go while no other call does, knowing what others have decided; it is written down at once. */
  claim<T>(decide: () => Promise<T>): Promise<T> {
    return this.alone(async () => {
      await this.takeIn();
      const decided = await decide();
      if (this.isChanged || this.chosen) await this.put();
      return decided;
    });
  }

  /** Writes it down, one after the other, whole or not at all. @throws disk */
  write(): Promise<void> {
    // One that could not be written is no reason not to write the next one.
    return (this.isWriting = this.isWriting
      .catch(() => undefined)
      .then(() =>
        this.alone(async () => {
          await this.takeIn();
          await this.put();
        }),
      ));
  }

  private async alone<T>(work: () => Promise<T>): Promise<T> {
    try {
      return await withLock(join(this.folder, LOCK), work);
    } catch (error) {
      throw error instanceof BijouError ? error : notWritten(error as NodeJS.ErrnoException);
    }
  }

  /** What other calls have written down meanwhile. */
  private async takeIn(): Promise<void> {
    const known = await readRecord(this.folder);
    for (const path of this.own) {
      const own = this.at(path);
      if (own) known.files.set(path, own);
      else known.files.delete(path);
    }
    this.known = known;
  }

  private async put(): Promise<void> {
    this.isChanged = false;
    const sorted = [...this.known.files].sort(([a], [b]) => (a < b ? -1 : 1));
    const { existing } = this;
    const record = { version: VERSION, existing, files: Object.fromEntries(sorted) };
    const temporary = temporaryIn(this.folder);
    const text = encodeText(`${JSON.stringify(record)}\n`);
    try {
      await writeTemporary(temporary, (sink) => sink.write(text));
      await rename(temporary, join(this.folder, RECORD));
      await syncFolder(this.folder);
    } finally {
      await dropTemporary(temporary);
    }
  }
}

interface Known {
  existing: Existing | undefined;
  files: Map<string, RecordedFile>;
}

async function readRecord(folder: string): Promise<Known> {
  const path = join(folder, RECORD);
  const found = await whatIsAt(path).catch(() => null);
  if (!found) return { existing: undefined, files: new Map() };
  if (!found.isFile() || found.size > MOST_BYTES) throw unreadable(path);
  const { version, existing, files } = await parsed(path);
  if (version > VERSION) throw newer(path);
  return {
    existing: existing ?? undefined,
    files: new Map(Object.entries(files as Record<string, RecordedFile>)),
  };
}

async function parsed(path: string) {
  try {
    return recordSchema.validateSync(JSON.parse(await readFile(path, 'utf8')), { strict: true });
  } catch {
    throw unreadable(path);
  }
}

function notWritten(error: NodeJS.ErrnoException): BijouError {
  return new BijouError(
    'disk',
    `What was built could not be written down in "${RECORD}" (${fileTrouble(error)}).`,
    'Free some space or choose another folder; what is not written down there is built again next time.',
  );
}

function unreadable(path: string): BijouError {
  return new BijouError(
    'not-allowed',
    `"${path}" is damaged, or was not written by Bijou.`,
    'Take it away: what lies beside it will count as somebody else’s.',
  );
}

function newer(path: string): BijouError {
  return new BijouError(
    'not-allowed',
    `"${path}" was written by a newer Bijou.`,
    'Use that one, or another folder.',
  );
}
