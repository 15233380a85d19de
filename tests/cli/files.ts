import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { encode } from '../core/files';
import { sine } from '../core/signals';

/** A tone as a 16-bit WAV file. */
export const tone = (seconds: number, level = 0.3, rateHz = 22_050) =>
  encode([sine(rateHz, 300, seconds * rateHz, level)], rateHz, 'wav', { bits: 16 });

/** Writes files into a folder, with the folders that they lie in. */
export async function put(
  folder: string,
  files: Record<string, Uint8Array | string>,
): Promise<string> {
  for (const [name, bytes] of Object.entries(files)) {
    await mkdir(join(folder, name, '..'), { recursive: true });
    await writeFile(join(folder, name), bytes);
  }
  return folder;
}
