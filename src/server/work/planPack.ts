import { createHash } from 'node:crypto';
import type { PackEntry } from '@/core/pack/input';
import { packPlan, type PackPlan } from '@/core/pack/plan';
import { mimeTypeOf } from '../files/types';
import { readPack, type Settled, type StoredPart } from './packSource';
import type { PlanTask } from './tasks';

/** One file of a pack under its address; what is written here has its bytes, where they were asked for. */
export interface PlannedEntry extends Omit<PackEntry, 'sha256'> {
  sha256: string;
  isWritten: boolean;
  mimeType: string;
}

/** A pack as it would be made now, every file of it under its address. */
export interface PlannedPack extends Pick<PackPlan, 'troubles'>, Settled {
  entries: PlannedEntry[];
}

/** Lays out a pack of what is in the data folder. */
export async function planPack({ source, content }: PlanTask): Promise<PlannedPack> {
  const { inputs, isSettled } = readPack(source);
  const { entries, troubles } = packPlan(inputs);
  const types = mimeTypes(inputs);
  const wanted = entries.filter(({ kind }) => content !== 'texts' || kind === 'text');
  return {
    ...{ troubles, isSettled },
    entries: wanted.map((entry) => ({
      ...entry,
      content: content === 'none' ? null : entry.content,
      isWritten: entry.content !== null,
      sha256: addressOf(entry),
      mimeType: types.get(entry.sha256 ?? '') ?? mimeTypeOf(entry.path),
    })),
  };
}

/** The SHA-256 of a file of a pack, whether it is there already or written here. */
export function addressOf({ content, sha256 }: Pick<PackEntry, 'content' | 'sha256'>): string {
  return content ? createHash('sha256').update(content).digest('hex') : sha256!;
}

function mimeTypes(inputs: readonly StoredPart[]): Map<string, string> {
  const made = inputs.flatMap(({ files }) => files.map((file) => file.made));
  return new Map(made.flatMap((one) => ('reason' in one ? [] : [[one.sha256, one.mimeType]])));
}
