import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import type { PackEntry, PartInput } from '@/core/pack/input';
import { needsBytes } from '@/core/pack/part';
import { packPlan, type PackPlan } from '@/core/pack/plan';
import { FileStore } from '../files/store';
import { readPartFile } from './partFiles';
import type { PlanTask } from './tasks';

/** One file of a pack under its address; what is written here has its bytes, where they were asked for. */
export interface PlannedEntry extends Omit<PackEntry, 'sha256'> {
  sha256: string;
  isWritten: boolean;
}

/** A pack as it would be made now, every file of it under its address. */
export interface PlannedPack extends Omit<PackPlan, 'entries' | 'parts'> {
  entries: PlannedEntry[];
  parts: Omit<PackPlan['parts'][number], 'entries'>[];
}

/** Lays out a pack of what is in the data folder. */
export async function planPack({ inputs, dataDir, withContent }: PlanTask): Promise<PlannedPack> {
  const store = new FileStore(dataDir);
  const bytesOf = (sha256: string): Uint8Array | null => {
    try {
      return readFileSync(store.path(sha256));
    } catch {
      return null;
    }
  };
  const whole = inputs.map((input): PartInput => ({
    ...input,
    files: input.files.map((file) => readPartFile(file, input.brief)),
    icon: input.settings.icon ? bytesOf(input.settings.icon.sha256) : null,
    bytesOf: (sha256) => (needsBytes(input.brief) ? bytesOf(sha256) : null) ?? new Uint8Array(),
  }));
  const { entries, parts, troubles } = packPlan(whole);
  return {
    troubles,
    parts: parts.map(({ briefId, folder, slots, calls, troubles: own }) => ({
      ...{ briefId, folder, slots, calls, troubles: own },
    })),
    entries: entries.map(({ content, sha256, ...entry }) => ({
      ...entry,
      content: withContent ? content : null,
      isWritten: content !== null,
      sha256: content ? createHash('sha256').update(content).digest('hex') : sha256!,
    })),
  };
}
