import { execFileSync } from 'node:child_process';
import {
  chmod,
  link,
  mkdir,
  readdir,
  readFile,
  rename,
  rm,
  stat,
  symlink,
  utimes,
  writeFile,
} from 'node:fs/promises';
import { join } from 'node:path';
import { cleanUp, temporaryFolder } from '../server/folder';
import { sha256 } from './building';
import { call, dataFolder, type PackJson } from './packing';
import { bijouFed } from './run';

afterAll(cleanUp);

/** What `pack` and `build` do to what is not theirs: nothing. */

async function packing(more: object = {}) {
  const { bijou, folder, project, ids, brief } = await dataFolder(more);
  const cwd = await temporaryFolder();
  const pack = (out: string, ...rest: string[]) =>
    call(folder, cwd, 'pack', '--project', 'Skerry', '--brief', brief, '--out', out, ...rest);
  const at = (...path: string[]) => join(cwd, ...path);
  return { bijou, folder, project, ids, brief, cwd, pack, at };
}

/** Every name in a folder, hidden ones too. */
const names = async (path: string) => (await readdir(path)).sort();

test('what is no folder of ours is refused and stays: files, links, full, unreadable and unlisted folders', async () => {
  const { pack, at, cwd } = await packing();
  await writeFile(at('file'), 'mine');
  await mkdir(at('full'));
  await writeFile(at('full/notes.txt'), 'mine');
  await mkdir(at('deep/empty'), { recursive: true });
  await mkdir(at('real'));
  await symlink('real', at('link'));
  await symlink('nowhere', at('dangling'));
  await mkdir(at('folder.zip'));
  execFileSync('mkfifo', [at('pipe'), at('full/pipe')]);
  const before = await names(cwd);
  const refused: [string, RegExp][] = [
    ['file', /is a file, and no folder of Bijou’s/],
    ['full', /"notes\.txt", "pipe"/],
    ['deep', /"empty\/"/],
    ['link', /is a link/],
    ['dangling', /is a link/],
    ['pipe', /is a file, and no folder/],
    ['folder.zip', /is no file/],
    ['file/below', /is a file, and no folder/],
  ];
  for (const [out, sentence] of refused) {
    const { status, err } = await pack(out);
    expect([out, status]).toEqual([out, 2]);
    expect(err).toMatch(sentence);
    expect(err).not.toMatch(/\bE[A-Z]{4,}\b/);
  }
  expect(await names(cwd)).toEqual(before);
  expect(await readFile(at('file'), 'utf8')).toBe('mine');
  expect(await readFile(at('full/notes.txt'), 'utf8')).toBe('mine');
}, 60_000);

test('a zip is replaced where Bijou has left it so, else only by --overwrite; no input ever', async () => {
  const { pack, at, cwd, bijou, project, ids } = await packing();
  await writeFile(at('theirs.zip'), 'PK theirs');
  const refused = await pack('theirs.zip', '--json');
  expect(refused.status).toBe(2);
  expect(JSON.parse(refused.out)).toMatchObject({ error: { code: 'already-there' } });
  expect(await readFile(at('theirs.zip'), 'utf8')).toBe('PK theirs');
  expect((await pack('theirs.zip', '--overwrite')).status).toBe(0);
  expect((await pack('ours.zip')).status).toBe(0);
  bijou.edits.edit(project, [{ soundId: ids[0]!, name: 'tern' }]);
  const first = await sha256(at('ours.zip'));
  expect((await pack('ours.zip')).status).toBe(0);
  expect(await sha256(at('ours.zip'))).not.toBe(first);
  // Changed by somebody since: no longer as we left it.
  await writeFile(at('ours.zip'), 'PK other');
  expect((await pack('ours.zip')).err).toMatch(/not as Bijou has left it.*--overwrite/s);
  expect((await pack('ours.zip', '--overwrite')).status).toBe(0);

  await link(at('ours.zip'), at('hard.zip'));
  await symlink('ours.zip', at('soft.zip'));
  const whole = await sha256(at('ours.zip'));
  for (const [since, out] of [
    ['ours.zip', 'ours.zip'],
    ['ours.zip', 'hard.zip'],
    ['soft.zip', 'ours.zip'],
    ['ours.zip', 'soft.zip'],
  ] as const) {
    const { status, err } = await pack(out, '--since', since, '--overwrite');
    expect([since, out, status]).toEqual([since, out, 2]);
    expect(err).toMatch(/is read by this call/);
  }
  expect(await sha256(at('ours.zip'))).toBe(whole);
  expect((await pack('folder')).status).toBe(0);
  expect((await pack('folder', '--since', 'folder')).err).toMatch(/is read by this call/);
  expect((await pack('work/pack', '--work', 'work')).err).toMatch(/is read by this call/);
  expect((await pack('work', '--work', 'work')).err).toMatch(/is read by this call/);
  expect(await names(cwd)).toEqual([
    ...['.folder.bijou.json', '.ours.zip.bijou.json', '.theirs.zip.bijou.json', 'folder'],
    ...['hard.zip', 'ours.zip', 'soft.zip', 'theirs.zip'],
  ]);
}, 90_000);

test('the data folder is an input too: nothing of it is written over', async () => {
  const { pack, folder, cwd, bijou, brief } = await packing();
  const database = await stat(join(folder, 'bijou.db'));
  for (const out of [folder, join(folder, 'files'), join(folder, 'files', 'x.zip')]) {
    expect((await pack(out, '--overwrite')).status).toBe(2);
  }
  await symlink(join(folder, 'bijou.db'), join(cwd, 'db.zip'));
  expect((await pack('db.zip', '--overwrite')).err).toMatch(/is read by this call/);
  const build = await call(
    folder,
    cwd,
    ...['build', '--project', 'Skerry', '--brief', brief, '--out', join(folder, 'files')],
    ...['--json'],
  );
  expect(build.status).toBe(1);
  expect((await stat(join(folder, 'bijou.db'))).ino).toBe(database.ino);
  expect(bijou.projects.all()).toHaveLength(1);
}, 60_000);

test('a call that was ended between the two renames is put right by the next one', async () => {
  const { pack, at, cwd, bijou, project, ids, brief } = await packing();
  expect((await pack('isle')).status).toBe(0);
  const before = await names(at('isle'));
  // As kill -9 leaves it: the delivered folder under its hidden name, nothing in its place.
  await rename(at('isle'), at('.isle.bijou-old'));
  bijou.layouts.fill(project, brief, [{ path: 'shore.ogg', soundId: null }]);
  // This pack would be wrong, and is not written; the one that was delivered is back all the same.
  expect((await pack('isle')).status).toBe(1);
  expect(await names(at('isle'))).toEqual(before);
  bijou.layouts.fill(project, brief, [{ path: 'shore.ogg', soundId: ids[2]! }]);
  // Ended behind both: what is left of the old one goes, and nothing that somebody has put there.
  await mkdir(at('.isle.bijou-old'));
  await writeFile(at('.isle.bijou-old/notes.txt'), 'mine');
  await writeFile(at('.isle.bijou-old/isle.json'), await readFile(at('isle/isle.json')));
  expect((await pack('isle')).status).toBe(0);
  expect(await names(cwd)).toEqual(['.isle.bijou.json', 'isle', 'isle (not of Bijou)']);
  expect(await names(at('isle (not of Bijou)'))).toEqual(['notes.txt']);
}, 60_000);

test('a record that is none of ours is not written over, and proves nothing', async () => {
  const { pack, at } = await packing();
  await writeFile(at('.isle.bijou.json'), 'my own notes');
  await mkdir(at('isle'));
  await writeFile(at('isle/gull.ogg'), 'mine');
  expect((await pack('isle')).err).toMatch(/was not written by Bijou/);
  expect(await readFile(at('.isle.bijou.json'), 'utf8')).toBe('my own notes');
  expect(await readFile(at('isle/gull.ogg'), 'utf8')).toBe('mine');
});

test('what is packed is what was proven: damaged files are made again, wherever they lay', async () => {
  const { pack, at, folder, bijou, project, brief, cwd } = await packing();
  const flipped = async (path: string) => {
    const { atime, mtime, mode } = await stat(path);
    const bytes = await readFile(path);
    for (let i = 600; i < 1_000; i++) bytes[i]! ^= 0xff;
    await chmod(path, 0o644);
    await writeFile(path, bytes);
    await utimes(path, atime, mtime);
    await chmod(path, mode);
  };
  const right = JSON.parse((await pack('right.zip', '--json')).out) as PackJson;
  bijou.packs.build(project);
  await bijou.jobs.idle();
  const gull = right.files.find(({ path }) => path === 'gull.ogg')!.sha256;
  await flipped(join(folder, 'files', gull.slice(0, 2), gull));
  const again = JSON.parse((await pack('again.zip', '--json')).out) as PackJson;
  expect(again).toMatchObject({
    right: true,
    digest: right.digest,
    built: { built: 1, cached: 2 },
  });
  expect(await sha256(at('again.zip'))).toBe(await sha256(at('right.zip')));

  // In a folder that keeps built files, with its time set back.
  await pack('kept.zip', '--work', 'work');
  await flipped(at(`work/${brief}/storm.ogg`));
  const kept = JSON.parse((await pack('kept.zip', '--work', 'work', '--json')).out) as PackJson;
  expect(kept).toMatchObject({
    digest: right.digest,
    built: { built: 0, cached: 1, unchanged: 2 },
  });
  expect(await sha256(at('kept.zip'))).toBe(await sha256(at('right.zip')));

  // And what `build` left.
  const build = () => call(folder, cwd, 'build', '--project', 'Skerry', '--out', 'built', '--json');
  await build();
  const place = at(`built/${brief}/gull.ogg`);
  await flipped(place);
  const { outputs } = JSON.parse((await build()).out) as { outputs: { state: string }[] };
  expect(outputs.map(({ state }) => state).sort()).toEqual(['built', 'unchanged', 'unchanged']);
  expect(await sha256(place)).toBe(gull);
}, 120_000);

test('what a host refuses is not written, and every reason is said', async () => {
  const { pack, at, cwd } = await packing({ host: 'mod' });
  const refused = await pack('isle.zip', '--json');
  expect(refused.status).toBe(1);
  const { right, rehearsals, digest } = JSON.parse(refused.out) as PackJson;
  expect({ right, digest }).toEqual({ right: false, digest: null });
  expect(rehearsals).toMatchObject([{ host: 'mod', accepted: false }]);
  expect(rehearsals[0]!.reasons).toHaveLength(rehearsals[0]!.refused);
  const { err } = await pack('isle');
  expect(err).toMatch(/^refused {2}isle\.json: .*\nNo pack was written: it is refused by mod\.$/ms);
  expect(await names(cwd)).toEqual([]);
  await rm(at('isle'), { force: true });
}, 60_000);

test('what killed calls left is cleared away, and what only looks like it is not', async () => {
  const { pack, at, cwd, folder } = await packing();
  expect((await pack('isle')).status).toBe(0);
  const dead = '.bijou-4194300-0123abcd-11111111-2222-4333-8444-555555555555.part';
  await mkdir(at(dead));
  await writeFile(at(dead, 'letter.txt'), 'mine');
  await mkdir(at('.bijou-4194300-pack.part'));
  const built = await call(folder, cwd, 'build', '--project', 'Skerry', '--out', '.');
  expect(built.status).toBe(0);
  expect((await pack('isle')).status).toBe(0);
  expect(await readFile(at(dead, 'letter.txt'), 'utf8')).toBe('mine');
  expect(await names(cwd)).toContain('.bijou-4194300-pack.part');
}, 60_000);

test('build writes through no link, and two calls share a folder', async () => {
  const { folder, cwd, at, brief } = await packing();
  const args = (out: string, ...more: string[]) => [
    ...['build', '--project', 'Skerry', '--out', out, '--json', ...more],
  ];
  const build = (out: string) => call(folder, cwd, ...args(out));
  // Each in a process of its own.
  const apart = (out: string, ...more: string[]) =>
    bijouFed(null, { BIJOU_DATA: folder }, cwd, ...args(out, ...more));
  await mkdir(at('out'));
  await mkdir(at('outside'));
  await symlink(at('outside'), at('out', brief));
  const through = await build('out');
  expect(through.status).toBe(1);
  expect(through.out).toMatch(/is a link that leads out/);
  expect(await names(at('outside'))).toEqual([]);

  const both = await Promise.all([
    apart('new/two', '--only', 'gull'),
    apart('new/two', '--only', 's*'),
  ]);
  expect(both.map(({ status, err }) => [status, err])).toEqual([
    [0, ''],
    [0, ''],
  ]);
  const record = JSON.parse(await readFile(at('new/two/.bijou.json'), 'utf8')) as { files: object };
  expect(Object.keys(record.files).sort()).toEqual([
    ...[`${brief}/gull.ogg`, `${brief}/shore.ogg`, `${brief}/storm.ogg`],
  ]);
  expect((await build('new/two')).out).toMatch(/"unchanged": 3/);
  // Built files have the permissions of new files, whatever those in the data folder have.
  expect((await stat(at('new/two', brief, 'gull.ogg'))).mode & 0o777).toBe(
    0o666 & ~process.umask(),
  );
}, 90_000);

test('a pipe in an earlier pack is refused, and keeps nobody waiting', async () => {
  const { pack, at } = await packing();
  await mkdir(at('earlier'));
  execFileSync('mkfifo', [at('earlier/pipe.ogg')]);
  const { status, err } = await pack('isle.zip', '--since', 'earlier');
  expect(status).toBe(2);
  expect(err).toMatch(/"pipe\.ogg" in ".*earlier" is no file/);
});
