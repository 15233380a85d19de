import { mkdir, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { zipSync } from 'fflate';
import { bytesOfText, filterFiles, modFiles, type Files } from '../core/host/making';
import { wrongFilters, wrongMods } from '../core/host/wrongPacks';
import { cleanUp, temporaryFolder } from '../server/folder';
import { bijou } from './run';

afterAll(cleanUp);

interface RehearsalJson {
  host: string;
  hostVersion: number;
  accepted: boolean;
  checks: {
    file: string;
    rule: string;
    asked: string;
    found: string;
    verdict: string;
    cure?: string;
  }[];
  sounds: { id: string; file: string; frames: number; seconds: number; loop?: object }[];
}

function inBytes(files: Files): Record<string, Uint8Array> {
  return Object.fromEntries(
    Object.entries(files).map(([path, content]) => [
      path,
      typeof content === 'string' ? bytesOfText(content) : content,
    ]),
  );
}

async function zipped(folder: string, files: Files): Promise<string> {
  await writeFile(join(folder, 'pack.zip'), zipSync(inBytes(files), { level: 6 }));
  return 'pack.zip';
}

async function unpacked(folder: string, files: Files): Promise<string> {
  for (const [path, bytes] of Object.entries(inBytes(files))) {
    const place = join(folder, 'storm', path);
    await mkdir(dirname(place), { recursive: true });
    await writeFile(place, bytes);
  }
  return 'storm';
}

test('a right pack is accepted, as a zip and as a folder, with its sounds', async () => {
  const folder = await temporaryFolder();
  for (const [host, files] of [
    ['mod', await modFiles()],
    ['filter', await filterFiles()],
  ] as const) {
    for (const name of [await zipped(folder, files), await unpacked(join(folder, host), files)]) {
      const cwd = name === 'storm' ? join(folder, host) : folder;
      const { status, out } = await bijou(cwd, 'rehearse', name, '--host', host, '--json');
      const result = JSON.parse(out) as RehearsalJson;
      expect(status).toBe(0);
      expect(Object.keys(result)).toEqual(['host', 'hostVersion', 'accepted', 'checks', 'sounds']);
      expect(result).toMatchObject({ host, hostVersion: 1, accepted: true });
      expect(result.sounds[0]).toMatchObject({ frames: 13_230, seconds: 0.3 });
    }
  }
}, 60_000);

test('wrong packs are refused by the command too, each for its reason and no other', async () => {
  const folder = await temporaryFolder();
  const all = [
    ...(await wrongMods()).map((one) => ({ ...one, host: 'mod' })),
    ...(await wrongFilters()).map((one) => ({ ...one, host: 'filter' })),
  ];
  // All of them are brought to the hosts themselves, in tests of the core.
  for (const { what, host, files, rule, file } of all.filter((_, i) => i % 3 === 0)) {
    const name = await zipped(folder, files);
    const { status, out } = await bijou(folder, 'rehearse', name, '--host', host, '--json');
    const { accepted, checks } = JSON.parse(out) as RehearsalJson;
    const refused = checks.filter(({ verdict }) => verdict === 'refused');
    const said = new Set(refused.map((one) => `${one.rule} ${one.file}`));
    expect([what, status, accepted, ...said]).toEqual([what, 1, false, `${rule} ${file}`]);
    expect(refused[0]!.cure).toMatch(/\S/);
  }
}, 120_000);

test('in words it says what is refused, what was asked, and what cures it', async () => {
  const folder = await temporaryFolder();
  const name = await zipped(folder, await modFiles({ 'places/shore.ogg': null }));
  const { status, out } = await bijou(folder, 'rehearse', name, '--host', 'mod');
  expect(status).toBe(1);
  expect(out).toMatch(/refused {2}places\/shore\.ogg: slot: nothing; asked: music for the shore/);
  expect(out).toContain('pack.zip is refused by mod: 1 reason');
});

test('a wrong call is told from a pack that is refused', async () => {
  const folder = await temporaryFolder();
  const name = await zipped(folder, await modFiles());
  for (const args of [
    ['lost.zip', '--host', 'mod'],
    [name, '--host', 'moon'],
    [name],
    ['--host', 'mod'],
  ]) {
    const { status, out, err } = await bijou(folder, 'rehearse', ...args);
    expect([status, out]).toEqual([2, '']);
    expect(err).not.toMatch(/at .*\.(ts|mjs)/);
  }
});
