import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { makeZip, type MadeEntry } from '../../tools/made/zip';
import { bringIn, placed, tone } from './bringing';
import { cleanUp, freshBijou, storedFiles } from './folder';

afterAll(cleanUp);

const text = (words: string) => new TextEncoder().encode(words);

async function unpacked(entries: readonly MadeEntry[] | Uint8Array, name = 'sea.zip') {
  const { bijou, folder } = await freshBijou();
  const project = bijou.projects.add('Test');
  const zip = entries instanceof Uint8Array ? entries : makeZip(entries);
  await bringIn(bijou, project, { [name]: zip });
  return { bijou, folder, project, intake: bijou.intakes.summary(project)! };
}

test('good entries come in, bad ones are told apart, the archive is not kept', async () => {
  const wave = await tone(100);
  const inner = makeZip([
    { name: 'deep/inner.wav', content: await tone(101) },
    { name: 'third.zip', content: makeZip([{ name: 'x.wav', content: wave }]) },
  ]);
  const { bijou, folder, project, intake } = await unpacked([
    { name: 'waves/', content: new Uint8Array(0), method: 0 },
    { name: 'waves/one.wav', content: wave },
    { name: 'waves/one.wav', content: await tone(102) },
    { name: 'waves/ONE.wav', content: await tone(103), method: 0 },
    { name: 'again.wav', content: wave },
    { name: '../../evil.wav', content: await tone(104) },
    { name: '/etc/evil.wav', content: await tone(105) },
    { name: 'C:\\evil.wav', content: await tone(106) },
    { name: 'link.wav', content: text('/etc/passwd'), isLink: true },
    { name: 'secret.wav', content: wave, isEncrypted: true },
    { name: 'odd.wav', content: wave, method: 14 },
    { name: 'torn.wav', content: await tone(107), isDamaged: true },
    { name: 'more.zip', content: inner },
    { name: 'letter.docx', content: makeZip([{ name: 'word.xml', content: text('x') }]) },
    { name: '__MACOSX/._one.wav', content: text('x') },
    { name: '.hidden/two.wav', content: wave },
    { name: 'readme.txt', content: text('hello') },
  ]);
  expect(placed(bijou, project)).toEqual(['sea/waves/ONE', 'sea/waves/one', 'sea/waves/one 2']);
  expect(intake.counts).toEqual({
    unpacked: 1,
    added: 3,
    already: 1,
    offered: 1,
    failed: 2,
    'left-out': 9,
  });
  const left = Object.fromEntries(intake.leftOut.map(({ reason, count }) => [reason, count]));
  expect(left).toEqual({
    'unsafe-path': 3,
    link: 1,
    encrypted: 1,
    'not-sound': 2,
    'resource-fork': 1,
    hidden: 1,
  });
  const failed = intake.shown.filter(({ outcome }) => outcome === 'failed');
  expect(failed.map(({ path, error }) => [path, error!.code])).toEqual([
    ['sea/odd.wav', 'unknown-codec'],
    ['sea/torn.wav', 'damaged-sound'],
  ]);

  // One level of archives in archives is offered, and no more.
  const offered = bijou.intakes.arrivals(project, 'offered');
  await bijou.intakes.decide(project, [offered[0]!.id], 'unpack');
  await bijou.jobs.idle();
  expect(placed(bijou, project)).toContain('sea/more/deep/inner');
  const nested = bijou.intakes.summary(project)!;
  expect(nested.leftOut.find(({ reason }) => reason === 'nested-archive')?.count).toBe(1);
  const kept = new Set(bijou.sounds.ofProject(project).map(({ sourceSha256 }) => sourceSha256));
  const stored = (await storedFiles(folder)).filter((name) => !name.includes('.'));
  expect(new Set(stored)).toEqual(kept);
});

test('sounds out of an archive are the very bytes that were put in', async () => {
  const bytes = await tone(120, 30_000);
  const { bijou, project } = await unpacked([{ name: 'a.wav', content: bytes }]);
  const [sound] = bijou.sounds.ofProject(project);
  expect(sound!.sourceSha256).toBe(createHash('sha256').update(bytes).digest('hex'));
  expect(await readFile(bijou.store.path(sound!.sourceSha256))).toEqual(Buffer.from(bytes));
});

describe('archives that mean harm', () => {
  const nothing = async (entries: readonly MadeEntry[] | Uint8Array) => {
    const { folder, intake } = await unpacked(entries);
    expect(await storedFiles(folder)).toEqual([]);
    expect(intake.counts).toEqual({ failed: 1 });
    return intake.shown[0]!.error!;
  };

  test('one that claims to unpack to far more than it holds', async () => {
    const error = await nothing([{ name: 'a.wav', content: text('x'), claims: 900_000_000 }]);
    expect(error).toMatchObject({ code: 'too-large' });
    expect(error.message).toContain('900 MB');
  });

  test('one that unpacks to more than is allowed', async () => {
    process.env['BIJOU_MAX_UNPACKED_BYTES'] = '50000';
    try {
      const many = await Promise.all([1, 2, 3].map((n) => tone(n, 10_000)));
      const error = await nothing(many.map((content, n) => ({ name: `${n}.wav`, content })));
      expect(error.hint).toContain('BIJOU_MAX_UNPACKED_BYTES');
    } finally {
      delete process.env['BIJOU_MAX_UNPACKED_BYTES'];
    }
  });

  test('one whose entries share their bytes', async () => {
    const content = await tone(5, 20_000);
    const shared = Array.from({ length: 9 }, (_, n) => ({
      name: `${n}.wav`,
      content,
      sharesWith: 0,
    }));
    const error = await nothing([{ name: 'a.wav', content }, ...shared]);
    expect(error).toMatchObject({ code: 'damaged-header' });
  });

  test('one that unpacks to more than it claims is cut short', async () => {
    const content = await tone(6, 20_000);
    const { bijou, project, intake } = await unpacked([{ name: 'a.wav', content, claims: 100 }]);
    expect(intake.counts).toEqual({ unpacked: 1, failed: 1 });
    expect(bijou.sounds.ofProject(project)).toEqual([]);
  });

  test('one that is cut off', async () => {
    const zip = makeZip([{ name: 'a.wav', content: await tone(7) }]);
    expect(await nothing(zip.subarray(0, zip.length - 30))).toMatchObject({
      code: 'damaged-header',
    });
  });
});

test('ten thousand entries are looked through, counted, and their sounds found', async () => {
  const notes = Array.from({ length: 9_997 }, (_, n) => ({
    name: `notes/${n}.txt`,
    content: text(`note ${n}`),
    method: 0 as const,
  }));
  const sounds = await Promise.all(
    [1, 2, 3].map(async (n) => ({ name: `waves/${n}.wav`, content: await tone(n) })),
  );
  const { bijou, project, intake } = await unpacked([...notes, ...sounds]);
  expect(intake.counts).toEqual({ unpacked: 1, added: 3, 'left-out': 9_997 });
  expect(intake.leftOut[0]).toMatchObject({ reason: 'not-sound', count: 9_997 });
  expect(intake.leftOut[0]!.examples.length).toBeLessThan(10);
  expect(placed(bijou, project)).toEqual(['sea/waves/1', 'sea/waves/2', 'sea/waves/3']);
});

test('unpacking goes on where a stop interrupted it, and brings nothing in twice', async () => {
  const entries = await Promise.all(
    Array.from({ length: 60 }, async (_, n) => ({ name: `${n}.wav`, content: await tone(n + 50) })),
  );
  const { bijou, folder } = await freshBijou();
  const project = bijou.projects.add('Test');
  const zip = makeZip(entries);
  const [arrival] = bijou.intakes.begin(project, [{ path: 'sea.zip', bytes: zip.length }]);
  async function* stream() {
    yield zip;
  }
  await bijou.intakes.receive(arrival!.id, stream(), zip.length);
  // Stopped as soon as the first sounds are there.
  while ((bijou.intakes.summary(project)!.counts.unpacking ?? 0) > 0) {
    if (bijou.sounds.ofProject(project).length > 3) break;
    await new Promise((resolve) => setTimeout(resolve, 2));
  }
  await bijou.close();
  const { bijou: again } = await freshBijou(folder);
  await again.jobs.idle();
  const { counts } = again.intakes.summary(project)!;
  expect((counts.added ?? 0) + (counts.already ?? 0)).toBeGreaterThanOrEqual(60);
  expect(counts.unpacked).toBe(1);
  expect(again.sounds.ofProject(project)).toHaveLength(60);
  expect(new Set(placed(again, project)).size).toBe(60);
});
