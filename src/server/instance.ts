import { resolve } from 'node:path';
import { openBijou, type Bijou } from './bijou';

/** Next loads modules once per route bundle; the one instance therefore lives on the process. */
const shared = globalThis as typeof globalThis & { bijouInstance?: Promise<Bijou> };

/** The instance of this process, over `BIJOU_DATA` (default `./data`). */
export function bijou(): Promise<Bijou> {
  return (shared.bijouInstance ??= openBijou(resolve(process.env['BIJOU_DATA'] ?? 'data')));
}
