import { createHash } from 'node:crypto';
import { chmod, cp, readdir, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { encode } from '../core/files';
import { noise } from '../core/signals';
import { makeReadOnly, mountSmallDisk, onSmallDisk, unmount } from '../disk';
import { cleanUp, temporaryFolder } from '../server/folder';
import { build, buildApart, projectWith, RATE, states, tone } from './building';

afterAll(cleanUp);

test('a source that has gone or changed in the store is named, and others go on', async () => {
  const { folder } = await projectWith({
    'gone.wav': { bytes: await tone(7), to: { 'wav-master': {} } },
    'other.wav': { bytes: await tone(8), to: { 'wav-master': {} } },
    'whole.wav': { bytes: await tone(9), to: { 'wav-master': {} } },
  });
  const hash = async (seed: number) =>
    createHash('sha256')
      .update(await tone(seed))
      .digest('hex');
  const stored = async (seed: number) => {
    const name = await hash(seed);
    return join(folder, 'files', name.slice(0, 2), name);
  };
  await rm(await stored(7));
  await chmod(await stored(8), 0o644);
  await writeFile(await stored(8), await tone(10));
  const out = join(await temporaryFolder(), 'out');
  const { status, outputs } = await build(folder, out);
  expect(status).toBe(1);
  expect(outputs.map(({ state, error }) => [state, error?.code])).toEqual([
    ['failed', 'not-found'],
    ['failed', 'changed-meanwhile'],
    ['built', undefined],
  ]);
});

onSmallDisk(
  'a full disk is said for every file that has no room, and what is finished stays',
  async () => {
    const long = (seed: number) => encode([noise(600_000, seed)], RATE, 'wav', { bits: 16 });
    const { folder } = await projectWith({
      'a.wav': { bytes: await long(21), to: { 'wav-master': {} } },
      'b.wav': { bytes: await long(22), to: { 'wav-master': {} } },
      'c.wav': { bytes: await tone(23), to: { 'wav-master': {} } },
    });
    const disk = join(await temporaryFolder(), 'disk');
    mountSmallDisk(disk);
    try {
      const out = join(disk, 'out');
      const full = await build(folder, out, '--threads', '1');
      expect(full.status).toBe(1);
      expect(full.outputs.map(({ state, error }) => [state, error?.code])).toEqual([
        ['built', undefined],
        ['failed', 'disk'],
        ['failed', 'disk'],
      ]);
      expect((await readdir(out)).sort()).toEqual(['.bijou.json', 'wav-master']);
      const smaller = await build(folder, out, '--threads', '1', '--only', '[ac]');
      expect(states(smaller)).toEqual({
        'wav-master/a.wav': 'unchanged',
        'wav-master/c.wav': 'built',
      });
    } finally {
      unmount(disk);
    }
  },
);

onSmallDisk('a data folder on a read-only disk is built from; a damaged one is said', async () => {
  const { folder } = await projectWith({
    'bell.wav': { bytes: await tone(24), to: { 'wav-master': {} } },
  });
  const disk = join(await temporaryFolder(), 'disk');
  mountSmallDisk(disk);
  try {
    await cp(folder, join(disk, 'data'), { recursive: true });
    makeReadOnly(disk);
    const out = join(await temporaryFolder(), 'out');
    const built = await buildApart(join(disk, 'data'), out);
    expect(states(built)).toEqual({ 'wav-master/bell.wav': 'built' });
  } finally {
    unmount(disk);
  }
  await writeFile(join(folder, 'bijou.db'), 'no database');
  const { status, err } = await build(folder, join(await temporaryFolder(), 'out'));
  expect(status).toBe(2);
  expect(err).toMatch(/bijou\.db" cannot be read/);
});
