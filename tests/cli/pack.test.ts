import { mkdir, readdir, readFile, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { PNG } from 'pngjs';
import { cleanUp, temporaryFolder, unzipped } from '../server/folder';
import { call, dataFolder, type PackJson } from './packing';

afterAll(cleanUp);

test('a pack is built and written, as a zip that is the application’s own to the bit, and as a folder', async () => {
  const { bijou, folder, project, brief } = await dataFolder();
  const cwd = await temporaryFolder();
  const pack = (...more: string[]) =>
    call(folder, cwd, 'pack', '--project', 'Skerry', '--brief', brief, ...more);
  const first = await pack('--out', 'isle.zip', '--json');
  expect(first.status).toBe(0);
  const json = JSON.parse(first.out) as PackJson;
  expect(json).toMatchObject({ right: true, built: { built: 3, cached: 0 }, problems: [] });
  expect(json.rehearsals).toEqual([]);
  const paths = ['calls.json', 'gull.ogg', 'icon.png', 'isle.json', 'shore.ogg', 'storm.ogg'];
  expect(json.files.map(({ path }) => path)).toEqual(paths);
  const made = await bijou.packing.make(project, [brief]);
  await bijou.jobs.idle();
  expect((await bijou.packing.details(made.id, null)).digest).toBe(json.digest);
  const own: Uint8Array[] = [];
  for await (const piece of bijou.packing.zip(made.id)
    .stream as unknown as AsyncIterable<Uint8Array>)
    own.push(piece);
  expect((await readFile(join(cwd, 'isle.zip'))).equals(Buffer.concat(own))).toBe(true);
  // What the application has built is taken over.
  const second = await pack('--out', 'mod', '--json', '--title', 'Storm "7"');
  expect(JSON.parse(second.out)).toMatchObject({ built: { built: 0, cached: 3 } });
  expect((await readdir(join(cwd, 'mod'))).sort()).toEqual(paths);
  expect(JSON.parse(await readFile(join(cwd, 'mod/isle.json'), 'utf8'))).toEqual({
    title: 'Storm "7"',
  });
  expect((await readdir(cwd)).sort()).toEqual([
    ...['.isle.zip.bijou.json', '.mod.bijou.json', 'isle.zip', 'mod'],
  ]);

  // A patch: against a number of the application, a zip, or a folder.
  const against = async (since: string) => {
    const { out, status } = await pack(
      '--out',
      'patch.zip',
      '--json',
      '--title',
      'Storm "7"',
      '--since',
      since,
    );
    expect(status).toBe(0);
    return (JSON.parse(out) as PackJson).since!;
  };
  const changed = {
    added: [],
    changed: ['icon.png', 'isle.json'],
    removed: [],
    moved: [],
    same: 4,
  };
  expect(await against(String(made.id))).toMatchObject(changed);
  expect(await against('isle.zip')).toMatchObject(changed);
  expect(await against('mod')).toMatchObject({ changed: [], same: 6 });
  const patch = await unzipped([await readFile(join(cwd, 'patch.zip'))]);
  expect([...patch.keys()]).toEqual(['patch.json']);
}, 60_000);

test('a folder holds the pack and nothing else: what an earlier one left goes, what others put there stays', async () => {
  const { bijou, folder, project, ids, brief } = await dataFolder();
  const cwd = await temporaryFolder();
  const pack = () => call(folder, cwd, 'pack', '--project', '1', '--brief', brief, '--out', 'mod');
  expect((await pack()).status).toBe(0);
  bijou.edits.edit(project, [{ soundId: ids[0]!, name: 'tern' }]);
  expect((await pack()).status).toBe(0);
  expect(await readdir(join(cwd, 'mod'))).toContain('tern.ogg');
  expect(await readdir(join(cwd, 'mod'))).not.toContain('gull.ogg');
  await writeFile(join(cwd, 'mod/notes.txt'), 'mine');
  const refused = await pack();
  expect(refused).toMatchObject({ status: 2 });
  expect(refused.err).toMatch(/"notes.txt".*take them away/s);
  expect(await readFile(join(cwd, 'mod/notes.txt'), 'utf8')).toBe('mine');
}, 60_000);

test('a pack that would be wrong is not written, and every reason is said', async () => {
  const { bijou, folder, project, brief } = await dataFolder();
  const cwd = await temporaryFolder();
  bijou.layouts.fill(project, brief, [{ path: 'shore.ogg', soundId: null }]);
  const pack = (...more: string[]) =>
    call(folder, cwd, 'pack', '--project', 'Skerry', '--brief', brief, '--out', 'a.zip', ...more);
  const wrong = await pack('--json', '--title', ' ');
  expect(wrong.status).toBe(1);
  const { right, problems } = JSON.parse(wrong.out) as PackJson;
  expect([right, problems.map(({ message }) => message)]).toEqual([
    false,
    ['Nothing fills shore.ogg.', 'The pack has no title.'],
  ]);
  const said = await pack();
  expect(said.err).toMatch(
    /Nothing fills shore.ogg. Give it a sound.\nNo pack was written: .* 1 reason/,
  );
  await writeFile(join(cwd, 'icon.png'), PNG.sync.write(new PNG({ width: 40, height: 40 })));
  expect((await pack('--icon', 'icon.png')).err).toMatch(/40 × 40 pixels. Make it 32 × 32/);
  expect(await readdir(cwd)).toEqual(['icon.png']);
  const wrongCall: [RegExp, ...string[]][] = [
    [/no icon at "no.png"/, '--icon', 'no.png'],
    [/no earlier pack "no.zip"/, '--since', 'no.zip'],
    [/archive is damaged/, '--since', 'icon.png'],
    [/no brief "nope"/, '--brief', 'nope'],
  ];
  for (const [message, ...more] of wrongCall) {
    const { status, err } = await pack(...more);
    expect([more, status]).toEqual([more, 2]);
    expect(err).toMatch(message);
  }
}, 60_000);

describe('index check', () => {
  const index = {
    calls: [
      {
        id: 'gull',
        variants: [{ path: 'gull.ogg', odds: 1 }],
        levelDb: 0,
        pitch: [1, 1],
        read: 'whole',
      },
      {
        id: 'storm',
        variants: [{ path: 'sea/storm.ogg', odds: 1 }],
        levelDb: 0,
        pitch: [1, 1],
        read: 'whole',
      },
    ],
  };

  async function folderWith(text: string, files = ['gull.ogg', 'sea/storm.ogg', 'sea/bell.ogg']) {
    const cwd = await temporaryFolder();
    await mkdir(join(cwd, 'sea'));
    for (const file of files) await writeFile(join(cwd, file), 'x');
    await writeFile(join(cwd, 'calls.json'), text);
    const check = (...more: string[]) => call(cwd, cwd, 'index', 'check', 'calls.json', ...more);
    return { cwd, check };
  }

  test('says what is wrong with line and column, what is missing and what nothing plays', async () => {
    const text = JSON.stringify(index, null, 1).replace('"storm",', '"storm"');
    const { check, cwd } = await folderWith(text, ['gull.ogg', 'sea/bell.ogg']);
    const { status, out } = await check('--root', '.', '--json');
    expect(status).toBe(1);
    expect(JSON.parse(out)).toEqual({
      valid: false,
      problems: [
        { line: 19, column: 17, message: 'a comma is missing behind line 19', mend: 'put , there' },
      ],
      missing: ['sea/storm.ogg'],
      unused: ['sea/bell.ogg'],
      calls: [
        { id: 'gull', files: ['gull.ogg'] },
        { id: 'storm', files: ['sea/storm.ogg'] },
      ],
    });
    expect(await readFile(join(cwd, 'calls.json'), 'utf8')).toBe(text);
    expect((await check()).out).toMatch(/^calls.json:19:17: a comma is missing behind line 19/);
  });

  test('mends it in place, and keeps what was there', async () => {
    const text = JSON.stringify(index).replace(']', '');
    const { check, cwd } = await folderWith(text);
    const { status, out } = await check('--root', '.', '--mend', '--json');
    expect(status).toBe(0);
    expect(JSON.parse(out)).toMatchObject({ valid: true, problems: [{ mend: 'put ] there' }] });
    expect(JSON.parse(await readFile(join(cwd, 'calls.json'), 'utf8'))).toEqual(index);
    expect(await readFile(join(cwd, 'calls unmended.json'), 'utf8')).toBe(text);
    // Once it is right there is nothing to do.
    expect((await check('--mend', '--root', '.')).status).toBe(0);
    await writeFile(join(cwd, 'calls.json'), '{ "a": 1 ');
    expect((await check('--mend')).status).toBe(0);
    expect((await readdir(cwd)).filter((name) => name.includes('unmended')).sort()).toEqual([
      ...['calls unmended 2.json', 'calls unmended.json'],
    ]);
    expect((await stat(join(cwd, 'calls.json'))).size).toBeGreaterThan(0);
  });

  test('takes any JSON that names files; what cannot be mended stays as it is', async () => {
    const { check, cwd } = await folderWith('{ "gull": ["gull.ogg"], "bell": "sea/bell.ogg" }');
    const { status, out } = await check('--root', '.', '--json');
    expect(status).toBe(0);
    expect(JSON.parse(out)).toMatchObject({ valid: true, unused: ['sea/storm.ogg'] });
    await writeFile(join(cwd, 'calls.json'), 'no JSON at all');
    expect((await check('--mend')).status).toBe(1);
    expect(await readFile(join(cwd, 'calls.json'), 'utf8')).toBe('no JSON at all');
    await writeFile(join(cwd, 'calls.json'), Uint8Array.of(0xff, 0xfe, 0x7b, 0));
    expect((await check()).err).toMatch(/no text in UTF-8/);
    expect((await check('--root', 'nowhere')).status).toBe(2);
    expect((await call(cwd, cwd, 'index', 'check', 'none.json')).status).toBe(2);
    expect((await call(cwd, cwd, 'index')).status).toBe(2);
  });
});
