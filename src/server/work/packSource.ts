import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Brief } from '@/core/brief/schema';
import type { PartInput } from '@/core/pack/input';
import { needsBytes } from '@/core/pack/part';
import type { PackSettings } from '@/core/pack/settings';
import { openTables, type Database } from '../db';
import { FileStore } from '../files/store';
import { storedPartFiles, type StoredPartFile } from '../services/storedParts';

/** What a pack is laid out of. Rows and bytes are read by whoever does it, so that nobody waits for them. */
export interface PackSource {
  dataDir: string;
  projectId: number;
  /** Its name. */
  project: string;
  parts: { brief: Brief; settings: PackSettings }[];
}

/** What one destination takes, as it is stored. */
export interface StoredPart extends PartInput {
  files: StoredPartFile[];
}

/** What was read is of no use where rows were out of date: it is asked for again. */
export interface Settled {
  isSettled: boolean;
}

/** Reads what the destinations get, all of it as it was at one moment. */
export function readPack({ dataDir, projectId, project, parts }: PackSource): {
  inputs: StoredPart[];
} & Settled {
  const store = new FileStore(dataDir);
  const bytesOf = (sha256: string): Uint8Array | null => {
    try {
      return readFileSync(store.path(sha256));
    } catch {
      return null;
    }
  };
  const db = openTables(join(dataDir, 'bijou.db'), { isReadOnly: true });
  try {
    return db.reading(() => ({
      isSettled: parts.every(({ brief: { id } }) => isSettled(db, projectId, id)),
      inputs: parts.map(({ brief, settings }) => ({
        ...{ brief, project, settings },
        files: storedPartFiles(db, projectId, brief),
        icon: settings.icon ? bytesOf(settings.icon.sha256) : null,
        bytesOf: (sha256) => (needsBytes(brief) ? bytesOf(sha256) : null) ?? new Uint8Array(),
      })),
    }));
  } finally {
    db.close();
  }
}

function isSettled({ staleCells }: Pick<Database, 'staleCells'>, projectId: number, id: string) {
  return staleCells.ofBrief(projectId, id, 1).length === 0 && !staleCells.areNames(projectId, id);
}
