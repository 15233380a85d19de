import { createHash } from 'node:crypto';
import { listText, type KeptFile } from '@/core/pack/changes';

/** Tells packs apart: of two with the same one every file is the same, under the same path. */
export function digestOf(files: readonly KeptFile[]): string {
  return createHash('sha256').update(listText(files)).digest('hex');
}
