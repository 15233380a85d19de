import { mkdir, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { makeZip } from '../made/zip';
import { islandFile } from './island';

/** Sounds of the island that nobody has brought in yet. */
const FIRST = 2_400;

/**
 * Writes what a colleague might hand over into a folder: good sounds, two that are the same, some that
 * cannot be read, things that are no sounds, and an archive that is partly damaged.
 */
export async function writeHandover(folder: string): Promise<void> {
  const sounds = await Promise.all(Array.from({ length: 12 }, (_, i) => islandFile(FIRST + i)));
  const [twin, torn] = [sounds[1]!, sounds[2]!];
  const text = (words: string) => new TextEncoder().encode(words);
  const files: [path: string, bytes: Uint8Array][] = [
    ...sounds.slice(0, 9).map(({ path, bytes }): [string, Uint8Array] => [path, bytes]),
    ['sea/old/copy of something.wav', twin.bytes],
    ['tower/keeper’s log.wav', text('Wind north-west, rising. Lamp lit at four.')],
    ['tower/whistle.wav', new Uint8Array(0)],
    ['tower/chart.png', text('\x89PNG\r\n\x1a\n')],
    ['tower/.DS_Store', text('x')],
    [
      'from the boat.zip',
      makeZip([
        ...sounds.slice(9).map(({ path, bytes }) => ({ name: path, content: bytes })),
        { name: 'engine/torn.wav', content: torn.bytes, isDamaged: true },
        { name: '../engine/stray.wav', content: twin.bytes },
        { name: '__MACOSX/._engine.wav', content: text('x') },
      ]),
    ],
  ];
  for (const [path, bytes] of files) {
    const file = join(folder, path);
    await mkdir(dirname(file), { recursive: true });
    await writeFile(file, bytes);
  }
}
