import { islandFile, type IslandFile } from '../../tools/demo/island';
import { flaws } from '../../tools/demo/island/flaws';
import { memorySource } from '@/core/bytes/source';
import { probe } from '@/core/measure/probe';
import { worriesOf } from '@/core/measure/worries';

/** Each flaw once, and as many files without one. */
const numbers = flaws.flatMap((_, i) => [6 * i, 6 * i + 1]);
let files: IslandFile[];
beforeAll(async () => {
  files = await Promise.all(numbers.map(islandFile));
});

async function worriesAbout({ path, bytes }: IslandFile): Promise<string[]> {
  const { facts, warnings } = await probe(memorySource(bytes));
  return worriesOf(facts, path, warnings).map(({ code }) => code);
}

test('files whose flaws are known raise those worries, and the others none', async () => {
  expect(new Set(files.flatMap(({ worry }) => worry ?? []))).toEqual(
    new Set(flaws.map(({ worry }) => worry)),
  );
  for (const file of files) {
    const found = await worriesAbout(file);
    if (file.worry)
      expect([file.path, found]).toEqual([file.path, expect.arrayContaining([file.worry])]);
    // A dull sound may be stored at more than it needs, and there is no harm in that.
    else
      expect([file.path, found.filter((code) => code !== 'spare-rate')]).toEqual([file.path, []]);
  }
});

test('the same number makes the same file, and no two numbers do', async () => {
  expect(await islandFile(numbers[7]!)).toEqual(files[7]);
  const all = files.map(({ bytes }) => Buffer.from(bytes).toString('base64'));
  expect(new Set(all).size).toBe(files.length);
});
