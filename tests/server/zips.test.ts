import { execFileSync } from 'node:child_process';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { centralHeader, endOfZip, localHeader } from '@/server/files/zipRecords';
import { zipStream, type ZippedFile } from '@/server/files/zipping';
import { cleanUp, temporaryFolder, unzipped } from './folder';

afterAll(cleanUp);

async function* files(...list: ZippedFile[]): AsyncGenerator<ZippedFile> {
  yield* list;
}

test('texts, bytes, small and large files come out as they went in, under names in any letters', async () => {
  const folder = await temporaryFolder();
  const large = Buffer.alloc(5_000_001, 7);
  await writeFile(join(folder, 'large'), large);
  await writeFile(join(folder, 'empty'), '');
  const list: ZippedFile[] = [
    { path: 'a/text.txt', content: 'Möwe\n' },
    { path: 'Möwe 漢字.ogg', content: Uint8Array.of(1, 2, 3) },
    { path: 'large.wav', content: { file: join(folder, 'large') } },
    { path: 'empty', content: { file: join(folder, 'empty') } },
  ];
  const out = await unzipped(zipStream(files(...list)));
  expect([...out.keys()]).toEqual(list.map(({ path }) => path));
  expect(out.get('a/text.txt')!.toString()).toBe('Möwe\n');
  expect([...out.get('Möwe 漢字.ogg')!]).toEqual([1, 2, 3]);
  expect(out.get('large.wav')!.equals(large)).toBe(true);
  expect(out.get('empty')!.length).toBe(0);
  expect((await unzipped(zipStream(files()))).size).toBe(0);
});

test('what Python’s own reader finds is whole, where there is one', async () => {
  const folder = await temporaryFolder();
  const path = join(folder, 'a.zip');
  const pieces: Uint8Array[] = [];
  const list = Array.from({ length: 70_000 }, (_, i) => ({ path: `f${i}`, content: `${i}` }));
  for await (const piece of zipStream(files(...list)) as unknown as AsyncIterable<Uint8Array>) {
    pieces.push(piece);
  }
  await writeFile(path, Buffer.concat(pieces));
  const ask =
    'import sys,zipfile; z=zipfile.ZipFile(sys.argv[1]); print(z.testzip(), len(z.namelist()), z.read("f69999").decode())';
  try {
    const said = execFileSync('python3', ['-c', ask, path]).toString().trim();
    // More entries than the old field counts.
    expect(said).toBe('None 70000 69999');
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error;
  }
  expect((await readFile(path)).length).toBeGreaterThan(1e6);
});

test('sizes and places beyond four gigabytes stand in the fields that were made for them', () => {
  const entry = { path: 'a', size: 5e9, checksum: 1, offset: 6e9 };
  const local = localHeader(entry);
  expect([local.readUInt32LE(18), local.readUInt32LE(22)]).toEqual([0xffffffff, 0xffffffff]);
  expect(local.readUInt16LE(31)).toBe(1);
  expect([local.readBigUInt64LE(35), local.readBigUInt64LE(43)]).toEqual([
    5_000_000_000n,
    5_000_000_000n,
  ]);
  const central = centralHeader(entry);
  expect(central.readUInt32LE(42)).toBe(0xffffffff);
  expect([51, 59, 67].map((at) => central.readBigUInt64LE(at))).toEqual([
    ...[5_000_000_000n, 5_000_000_000n, 6_000_000_000n],
  ]);
  // Only the place is far: then only it stands behind.
  const far = centralHeader({ ...entry, size: 3 });
  expect([far.readUInt32LE(24), far.readUInt16LE(30), far.readBigUInt64LE(51)]).toEqual([
    ...[3, 12, 6_000_000_000n],
  ]);
  const end = endOfZip({ entries: 3, offset: 6e9, bytes: 100 });
  expect(end.readUInt32LE(0)).toBe(0x06064b50);
  expect(end.readBigUInt64LE(48)).toBe(6_000_000_000n);
  expect(end.readUInt32LE(56)).toBe(0x07064b50);
  expect(end.readBigUInt64LE(64)).toBe(6_000_000_100n);
  expect(endOfZip({ entries: 3, offset: 6, bytes: 100 })).toHaveLength(22);
});

test('what is asked for is given up with the stream that nobody reads to its end', async () => {
  let isLetGo = false;
  async function* held(): AsyncGenerator<ZippedFile> {
    try {
      yield { path: 'a', content: 'x'.repeat(100_000) };
      yield { path: 'b', content: 'y' };
    } finally {
      isLetGo = true;
    }
  }
  const reader = zipStream(held()).getReader();
  await reader.read();
  await reader.cancel();
  expect(isLetGo).toBe(true);
});
