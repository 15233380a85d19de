import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { readdir, readFile, writeFile } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { putInPlace, writeTemporary } from '@/server/files/bytes';
import { isOwnHost, isOwnOrigin } from '@/server/guard';
import { lockFolder } from '@/server/lock';
import { cleanUp, temporaryFolder } from './folder';

afterAll(cleanUp);

test('files are written whole or not at all, and never over another', async () => {
  const folder = await temporaryFolder();
  const part = join(folder, 'part');
  const bytes = new TextEncoder().encode('one');
  await expect(
    writeTemporary(part, async (sink) => {
      await sink.write(bytes);
      throw new Error('the writer fails');
    }),
  ).rejects.toThrow('the writer fails');
  expect(await readdir(folder)).toEqual([]);

  const target = join(folder, 'target');
  await writeTemporary(part, (sink) => sink.write(bytes));
  await putInPlace(part, target, false);
  await writeTemporary(part, async (sink) => {
    await sink.write(new TextEncoder().encode('two and more'));
    await sink.write(new TextEncoder().encode('TWO'), 0);
  });
  await expect(putInPlace(part, target, false)).rejects.toMatchObject({ code: 'already-there' });
  expect(await readdir(folder)).toEqual(['target']);
  expect(await readFile(target, 'utf8')).toBe('one');
});

test('only our own pages, under our own names, may call', () => {
  expect(['127.0.0.1:4310', 'localhost', '[::1]:80'].every(isOwnHost)).toBe(true);
  expect(['evil.example', '127.0.0.1.evil.example', '', null].some(isOwnHost)).toBe(false);
  const from = (headers: Record<string, string>) =>
    isOwnOrigin(new Headers({ host: '127.0.0.1:1', ...headers }));
  expect(from({})).toBe(true);
  expect(from({ origin: 'http://127.0.0.1:1' })).toBe(true);
  expect(from({ origin: 'http://evil.example' })).toBe(false);
  expect(from({ origin: 'null' })).toBe(false);
  expect(from({ 'sec-fetch-site': 'cross-site' })).toBe(false);
});

test('a data folder belongs to one process at a time; one that was killed does not hold it', async () => {
  const folder = await temporaryFolder();
  await writeFile(join(folder, 'bijou.lock'), String(process.pid));
  const unlock = lockFolder(folder);
  expect(() => lockFolder(folder)).toThrow(/Another Bijou is using/);
  unlock();
  const holder = spawn(process.execPath, [resolve('dist/loadDemo.mjs')], {
    env: { ...process.env, BIJOU_DATA: folder },
    stdio: ['ignore', 'pipe', 'ignore'],
  });
  await once(holder.stdout, 'data');
  expect(() => lockFolder(folder)).toThrow(/Another Bijou is using/);
  holder.kill('SIGKILL');
  await once(holder, 'exit');
  lockFolder(folder)();
});
