import { zipSync } from 'fflate';
import fc from 'fast-check';
import { memorySource } from '@/core/bytes/source';
import { hostById } from '@/core/host';
import { inFolder } from '@/core/host/pack';
import { rehearseZip } from '@/core/host/rehearse';
import { foundInZip } from '@/core/host/zip';
import { bytesOfText, modFiles } from './making';

async function zipOfMod(folder = '', level: 0 | 6 = 0): Promise<Uint8Array> {
  const files = Object.entries(await modFiles()).map(([path, content]) => [
    folder + path,
    typeof content === 'string' ? bytesOfText(content) : content,
  ]);
  return zipSync(Object.fromEntries(files) as Record<string, Uint8Array>, { level });
}

const take = (zip: Uint8Array) => rehearseZip(hostById('mod'), 'storm.zip', memorySource(zip));

test('a zip is taken as other people write it, deflated or not, and one folder of it where that is asked', async () => {
  expect((await take(await zipOfMod())).accepted).toBe(true);
  expect((await take(await zipOfMod('', 6))).accepted).toBe(true);
  const several = memorySource(await zipOfMod('game-mod/'));
  const part = await rehearseZip(hostById('mod'), 'storm.zip', several, (pack) =>
    inFolder(pack, 'game-mod'),
  );
  expect(part.accepted).toBe(true);
  expect(part.sounds[0]!.file).toBe('creatures/gull_1.ogg');
});

test('a zip that is cut, empty, or none at all is refused as that', async () => {
  const zip = await zipOfMod();
  for (const bytes of [zip.slice(0, zip.length / 2), new Uint8Array(), bytesOfText('PK hello')]) {
    const { accepted, checks } = await take(bytes);
    expect(accepted).toBe(false);
    expect(checks).toMatchObject([{ file: 'storm.zip', rule: 'zip', verdict: 'refused' }]);
  }
});

test('a file that is damaged inside of a zip is refused alone', async () => {
  const zip = await zipOfMod();
  const name = 'creatures/gull_1.ogg';
  // Behind its own head of 30 bytes, not where the index names it.
  const head = zip.findIndex((byte, at) => {
    const text = byte === 0x50 ? String.fromCharCode(...zip.subarray(at, at + 50)) : '';
    return text.startsWith('PK\x03\x04') && text.slice(30) === name;
  });
  zip[head + 1_000]! ^= 1;
  const { checks, sounds } = await take(zip);
  expect(checks.filter(({ verdict }) => verdict === 'refused')).toMatchObject([
    { file: 'creatures/gull_1.ogg', rule: 'undamaged' },
  ]);
  expect(sounds).toHaveLength(6);
});

test('an entry that unpacks to more than it says is given up, and a large one is not unpacked', async () => {
  const zip = zipSync({ 'bomb.txt': new Uint8Array(2e6) }, { level: 9 });
  const view = new DataView(zip.buffer);
  const end = zip.length - 22;
  const list = view.getUint32(end + 16, true);
  for (const [at, size] of [
    [22, 1_000],
    [list + 24, 1_000],
  ] as const) {
    view.setUint32(at, size, true);
  }
  const [lying] = (await foundInZip('bomb.zip', memorySource(zip))).files;
  expect(lying!.bytes).toBe(1_000);
  await expect(lying!.open()).rejects.toMatchObject({ code: 'damaged-sound' });
  view.setUint32(22, 1e9, true);
  view.setUint32(list + 24, 1e9, true);
  const [large] = (await foundInZip('bomb.zip', memorySource(zip))).files;
  await expect(large!.open()).rejects.toMatchObject({ code: 'too-large' });
});

test('of a zip with one byte other, nothing is ever worse than refused', async () => {
  const zip = await zipOfMod();
  await fc.assert(
    fc.asyncProperty(fc.nat(zip.length - 1), fc.integer({ min: 1, max: 255 }), async (at, by) => {
      const copy = zip.slice();
      copy[at]! ^= by;
      const { checks } = await take(copy);
      expect(checks.length).toBeGreaterThan(0);
    }),
    { numRuns: 150 },
  );
});
