import { mkdir, symlink, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import Papa from 'papaparse';
import { tableColumns } from '@/core/collect/columns';
import { samples } from '../core/files';
import { cleanUp, temporaryFolder } from '../server/folder';
import { bijou } from './run';

afterAll(cleanUp);

async function folderOfSounds(): Promise<string> {
  const folder = await temporaryFolder();
  await mkdir(join(folder, 'storm/wind'), { recursive: true });
  await mkdir(join(folder, 'storm/.git'));
  for (const n of [10, 9, 1]) {
    await writeFile(join(folder, `storm/wind/gust ${n}.wav`), await samples.wav());
  }
  await writeFile(join(folder, 'storm/Glocke, "雷".flac'), await samples.flac());
  await writeFile(join(folder, 'storm/letter.wav'), 'Dear Sir');
  await writeFile(join(folder, 'storm/readme.txt'), 'hello');
  await writeFile(join(folder, 'storm/.git/bell.wav'), await samples.wav());
  await symlink('/etc/passwd', join(folder, 'storm/link.wav'));
  return folder;
}

test('a folder is looked through; its table is CSV with a line for each sound', async () => {
  const folder = await folderOfSounds();
  const { status, out, err } = await bijou(folder, 'probe', 'storm', '--csv');
  expect(status).toBe(1);
  expect(err).toContain('storm: 3 files left out: hidden, linked, or no sound.');
  expect(err).toContain('letter.wav: It is text, not sound');
  const { data, meta, errors } = Papa.parse<Record<string, string>>(out.trimEnd(), {
    header: true,
  });
  expect(errors).toEqual([]);
  expect(meta.fields).toEqual(['file', ...tableColumns.map(({ id }) => id)]);
  expect(data.map(({ name, group }) => [group, name])).toEqual([
    ['', 'Glocke, "雷"'],
    ['wind', 'gust 1'],
    ['wind', 'gust 9'],
    ['wind', 'gust 10'],
  ]);
  const [bell] = data;
  expect(bell).toMatchObject({ file: 'storm/Glocke, "雷".flac', format: 'FLAC', folder: '' });

  const json = await bijou(folder, 'probe', 'storm', '--json');
  const facts = JSON.parse(json.out) as { file: string; frames: number; error?: unknown }[];
  expect(facts).toHaveLength(5);
  for (const line of data) {
    const same = facts.find(({ file }) => file === line['file'])!;
    expect(Number(line['frames'])).toBe(same.frames);
  }
});

test('a folder without sounds is a table without lines', async () => {
  const folder = await temporaryFolder();
  const { status, out } = await bijou(folder, 'probe', '.', '--csv');
  expect(status).toBe(0);
  expect(out.trimEnd().split('\n')).toHaveLength(1);
});

test('two kinds of output at once are a wrong call', async () => {
  const { status, err } = await bijou('.', 'probe', '.', '--csv', '--json');
  expect(status).toBe(2);
  expect(err).toContain('Only one of');
});
