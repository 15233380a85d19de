import { randomUUID } from 'node:crypto';
import { readFile, readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import * as yup from 'yup';
import { BijouError } from '@/core/errors';
import { encodeText } from '@/core/formats/bits';
import { syncFolder, writeTemporary } from '@/server/files/bytes';
import type { BuiltFacts } from '../batch/tasks';
import { fileTrouble } from '../outFolder';

/** What is done about files that somebody else has put where results belong. */
export const existingWays = ['keep', 'replace', 'number'] as const;
export type Existing = (typeof existingWays)[number];

/** The one record of what was built into a folder. */
const RECORD = '.bijou.json';
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
    /** As the file system says it. */
    changedMs: number;
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

  private constructor(
    private readonly folder: string,
    public existing: Existing | undefined,
    private readonly files: Map<string, RecordedFile>,
  ) {}

  /** @throws not-allowed for a record of a newer Bijou, or one that cannot be read */
  static async of(folder: string): Promise<BuildRecord> {
    const path = join(folder, RECORD);
    const found = await stat(path).catch(() => null);
    if (!found) return new BuildRecord(folder, undefined, new Map());
    if (found.size > MOST_BYTES) throw unreadable(path);
    const { version, existing, files } = await parsed(path);
    if (version > VERSION) throw newer(path);
    return new BuildRecord(
      folder,
      existing ?? undefined,
      new Map(Object.entries(files as Record<string, RecordedFile>)),
    );
  }

  /** Everything that was built here, by its path inside of the folder. */
  get paths(): string[] {
    return [...this.files.keys()];
  }

  at(path: string): RecordedFile | undefined {
    return this.files.get(path);
  }

  set(path: string, file: RecordedFile): void {
    this.files.set(path, file);
  }

  /** Whether a file is there as it was left. */
  async isAsLeft(path: string): Promise<boolean> {
    const made = this.files.get(path)?.made;
    if (!made) return false;
    const found = await stat(join(this.folder, path)).catch(() => null);
    return (
      found?.isFile() === true && found.size === made.bytes && found.mtimeMs === made.changedMs
    );
  }

  /** Writes it down, one after the other, whole or not at all. @throws disk */
  write(): Promise<void> {
    // One that could not be written is no reason not to write the next one.
    return (this.isWriting = this.isWriting.catch(() => undefined).then(() => this.put()));
  }

  private async put(): Promise<void> {
    const { existing, files } = this;
    const sorted = [...files].sort(([a], [b]) => (a < b ? -1 : 1));
    const record = { version: VERSION, existing, files: Object.fromEntries(sorted) };
    const temporary = join(this.folder, `.bijou-${process.pid}-${randomUUID()}.part`);
    const text = encodeText(`${JSON.stringify(record)}\n`);
    try {
      await writeTemporary(temporary, (sink) => sink.write(text));
      await rename(temporary, join(this.folder, RECORD));
      await syncFolder(this.folder);
    } catch (error) {
      await rm(temporary, { force: true });
      throw notWritten(error as NodeJS.ErrnoException);
    }
  }
}

async function parsed(path: string) {
  try {
    return recordSchema.validateSync(JSON.parse(await readFile(path, 'utf8')), { strict: true });
  } catch {
    throw unreadable(path);
  }
}

/** Takes away what a build left unfinished that was killed: files of processes that are no more. */
export async function tidyFolder(folder: string): Promise<void> {
  const names = await readdir(folder).catch(() => []);
  for (const name of names) {
    const [, pid] = /^\.bijou-(\d+)-.*\.part(-scratch)?$/.exec(name) ?? [];
    if (pid !== undefined && !isRunning(Number(pid))) await rm(join(folder, name), { force: true });
  }
}

function isRunning(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
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
