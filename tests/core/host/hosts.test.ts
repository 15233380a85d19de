import fc from 'fast-check';
import { hostById, hosts } from '@/core/host';
import { islandPlaces } from '@/core/host/mod/places';
import { demands as modDemands } from '@/core/host/mod/rules';
import { demands as filterDemands } from '@/core/host/filter/rules';
import { rehearse } from '@/core/host/rehearse';
import { builtinBriefs } from '@/core/brief/builtin';
import { storedBrief } from '@/core/brief/catalogue';
import { wrongFilters, wrongMods, type WrongPack } from './wrongPacks';
import { callIndex, filterFiles, modFiles, packOf, vorbis, type Files } from './making';

const take = (host: string, files: Files) => rehearse(hostById(host), packOf(files));

function refusals({ checks }: Awaited<ReturnType<typeof take>>) {
  return checks.filter(({ verdict }) => verdict === 'refused');
}

/** Each is refused for its reason and no other. */
async function expectRefused(host: string, packs: readonly WrongPack[]): Promise<void> {
  for (const { what, files, rule, file } of packs) {
    const result = await take(host, files);
    const said = refusals(result).map((one) => `${one.rule} ${one.file}`);
    expect([what, ...new Set(said)]).toEqual([what, `${rule} ${file}`]);
    expect(result.accepted).toBe(false);
    for (const check of refusals(result)) {
      expect(Object.hasOwn(hostById(host).rules, check.rule)).toBe(true);
      expect(check.cure).toMatch(/\S/);
      expect(`${check.found} ${check.asked}`).not.toMatch(/undefined|NaN|\.\.$|object/);
    }
  }
}

test('the island takes a right pack, with the sounds that are in it to the frame', async () => {
  const result = await take('mod', await modFiles());
  expect(refusals(result)).toEqual([]);
  expect(result).toMatchObject({ host: 'mod', hostVersion: 1, accepted: true });
  expect(result.sounds).toHaveLength(7);
  expect(result.sounds[0]).toMatchObject({ id: 'creatures/gull_1', frames: 13_230, seconds: 0.3 });
  expect(result.scene).toMatchObject({ title: 'Storm', edition: 3, calls: [{ id: 'gull' }] });
  expect(result.checks.every(({ verdict }) => verdict === 'met')).toBe(true);
  expect(result.log.at(-1)!.text).toBe('Ready: 7 sounds.');
});

test('the island refuses wrong packs, each for its reason and no other', async () => {
  await expectRefused('mod', await wrongMods());
}, 60_000);

test('the stage takes a right pack, and begins with what is usual where nothing is said', async () => {
  const result = await take('filter', await filterFiles());
  expect(refusals(result)).toEqual([]);
  expect(result).toMatchObject({ host: 'filter', accepted: true });
  expect(result.sounds.map(({ id, frames }) => [id, frames])).toEqual([
    ['bell', 13_230],
    ['horn of the Skerry', 13_230],
  ]);
  expect(result.scene).toMatchObject({
    choices: {
      sounds: {
        'bell.m4a': { acts: { tap: 'startOrStop' } },
        'horn of the Skerry.m4a': { acts: { tap: 'nothing' } },
      },
    },
  });
});

test('the stage refuses wrong packs, each for its reason and no other', async () => {
  await expectRefused('filter', await wrongFilters());
}, 60_000);

test('what a host takes and does not need is said, and hides nothing', async () => {
  const litter = { '__MACOSX/._isle.json': 'x', '.DS_Store': 'x', 'places/thumbs.db': 'x' };
  const more = { ...litter, 'extra.ogg': await vorbis(), 'picture.jpg': 'x' };
  const { accepted, checks } = await take('mod', await modFiles(more));
  expect(accepted).toBe(true);
  const warned = checks.filter(({ verdict }) => verdict === 'warning');
  expect(warned.map(({ file, rule }) => [file, rule]).sort()).toEqual([
    ['.DS_Store', 'path'],
    ['__MACOSX/._isle.json', 'path'],
    ['extra.ogg', 'unused'],
    ['picture.jpg', 'unused'],
    ['places/thumbs.db', 'path'],
  ]);
});

test('an older edition is taken with a word, and so are factors that the island cannot play', async () => {
  const older = JSON.stringify({
    title: 'S',
    edition: 2,
    author: 'A',
    icon: 'icon.png',
    calls: 'calls.json',
  });
  const calls = callIndex(['gull', 'creatures/gull_1.ogg', 'creatures/gull_2.ogg']);
  const files = await modFiles({
    'isle.json': older,
    'calls.json': calls.replace(/"pitch": \[\s*1,\s*1\s*\]/, '"pitch": [0.3, 3]'),
  });
  const { accepted, checks } = await take('mod', files);
  expect(accepted).toBe(true);
  expect(
    checks.filter(({ verdict }) => verdict === 'warning').map(({ rule, call }) => [rule, call]),
  ).toEqual([
    ['edition', undefined],
    ['pitch', 'gull'],
  ]);
});

test('of many faults of one kind some are said, and how many there are besides', async () => {
  const paths = Array.from({ length: 500 }, (_, i) => `lost_${i}.ogg`);
  const result = await take('mod', await modFiles({ 'calls.json': callIndex(['owl', ...paths]) }));
  expect(refusals(result)).toHaveLength(20);
  expect(result.log.some(({ text }) => text.startsWith('480 files more of calls'))).toBe(true);
});

test('every file of a pack is opened once, and a huge one not at all', async () => {
  const files = packOf(await modFiles());
  const opened: string[] = [];
  const watched = files.files.map((file) => ({
    ...file,
    open: () => {
      opened.push(file.path);
      return file.open();
    },
  }));
  const huge = {
    path: 'huge.txt',
    bytes: 2 ** 29,
    open: () => Promise.reject(new Error('opened')),
  };
  // Of a gigabyte, as an icon.
  const icon = { ...huge, path: 'icon.png', bytes: 1e9 - 2 ** 29 };
  const others = watched.filter(({ path }) => path !== icon.path);
  const pack = { ...files, files: [...others, huge, icon] };
  const result = await rehearse(hostById('mod'), pack);
  expect(refusals(result)).toMatchObject([
    { file: 'icon.png', rule: 'icon' },
    { file: 'huge.txt', rule: 'encoding' },
  ]);
  const whole = await rehearse(hostById('mod'), {
    ...files,
    files: [...others, { ...icon, bytes: 2 ** 31 }],
  });
  expect(refusals(whole)).toMatchObject([{ file: 'pack.zip', rule: 'size' }]);
  expect(new Set(opened).size).toBe(opened.length);
});

test('whatever lies in a pack, a host answers, and refuses it', async () => {
  const path = fc.oneof(
    fc.constantFrom(
      'isle.json',
      'calls.json',
      'icon.png',
      'settings.txt',
      'a.m4a',
      'places/shore.ogg',
    ),
    fc.string({ unit: 'binary', maxLength: 20 }),
  );
  const bytes = fc.oneof(
    fc.uint8Array({ maxLength: 200 }),
    fc.json().map((text) => new TextEncoder().encode(text)),
    fc
      .constantFrom('OggS', 'RIFF', '\0\0\0\x18ftypM4A ')
      .map((text) => new TextEncoder().encode(text)),
  );
  await fc.assert(
    fc.asyncProperty(fc.dictionary(path, bytes, { maxKeys: 6 }), async (files) => {
      for (const host of ['mod', 'filter']) {
        const result = await take(host, files);
        expect(result.accepted).toBe(false);
        expect(refusals(result).length).toBeGreaterThan(0);
      }
    }),
    { numRuns: 300 },
  );
}, 60_000);

test('built-in briefs are made for their hosts: what a brief demands the host takes', () => {
  for (const host of hosts) {
    const brief = storedBrief(builtinBriefs, host.briefId);
    expect(brief.host).toBe(host.id);
    const demands = host.id === 'mod' ? modDemands : filterDemands;
    for (const file of brief.files) {
      expect([file.container, file.codec, `.${file.extension}`]).toEqual([
        demands.container,
        demands.codec,
        demands.ending,
      ]);
      expect(demands.ratesHz).toEqual(expect.arrayContaining(file.sampleRatesHz as number[]));
      expect(demands.channels).toEqual(expect.arrayContaining(file.channels!));
    }
    expect(brief.mostSeconds).toBe(demands.mostSeconds);
  }
  const { slots } = storedBrief(builtinBriefs, 'game-mod').layout!;
  const ofBrief = slots!.map(({ path, isOptional = false }) => [path, isOptional]);
  const ofIsland = islandPlaces.map(({ file, isOptional = false }) => [file, isOptional]);
  expect(ofBrief.sort()).toEqual(ofIsland.sort());
});
