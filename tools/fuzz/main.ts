import { writeFile } from 'node:fs/promises';
import { structures } from './many';
import { mutate, randomOf } from './mutate';
import { fuzzSeeds } from './seeds';
import { surviving, survivingText } from './survive';
import { otherText, textSeeds, type TextSeed } from './texts';

/**
 * `npm run fuzz [COUNT] [FIRST SEED] [KIND]`: damages real files of every kind, and files of very many small parts
 * made of them, which are a third of all, and decodes them; and texts, indexes, briefs and icons as strangers may have
 * written them. What does not survive is written down.
 */
const [count = 1_000, first = 1] = process.argv.slice(2, 4).map(Number);
const only = process.argv[4];
const LARGE_BYTES = 8e6;
const MOST_SMALL_BYTES = 200_000;

let found = 0;
async function judge(what: string, bytes: Uint8Array, take?: TextSeed['take']): Promise<void> {
  const problem = await (take ? survivingText(take, bytes) : surviving(bytes));
  if (!problem) return;
  found++;
  const path = `test-results/fuzz-${what.replaceAll(/[^\w]+/g, '-')}.bin`;
  await writeFile(path, bytes);
  console.log(`${what}: ${problem}. Kept as ${path}.`);
}

/** One of the structures of a kind, of any size; the file itself where there are none. */
function manyParts(kind: string, whole: Uint8Array, seed: number): Uint8Array {
  const list = Object.values(structures[kind] ?? {});
  const random = randomOf(seed);
  const make = list[Math.floor(random() * list.length)];
  return make?.(whole, 20 + random() ** 3 * MOST_SMALL_BYTES) ?? whole;
}

for (const [kind, make] of Object.entries(fuzzSeeds)) {
  if (only !== undefined && !kind.startsWith(only)) continue;
  const whole = await make();
  for (const [name, structure] of Object.entries(structures[kind] ?? {})) {
    await judge(`${kind}, ${name}`, structure(whole, LARGE_BYTES));
  }
  for (let seed = first; seed < first + count; seed++) {
    const seeded = seed % 3 === 0 ? manyParts(kind, whole, seed) : whole;
    const { name, bytes } = mutate(seeded, seed);
    await judge(`${kind}, seed ${seed} (${name})`, bytes);
  }
  console.log(`${kind}: ${count} damaged files decoded`);
}
for (const [kind, seeded] of Object.entries(textSeeds)) {
  if (only !== undefined && !kind.startsWith(only)) continue;
  for (let seed = first; seed < first + count; seed++) {
    const { name, bytes } =
      seed % 4 === 0 ? mutate(seeded.whole, seed) : otherText(seeded, randomOf(seed));
    await judge(`${kind}, seed ${seed} (${name})`, bytes, seeded.take);
  }
  console.log(`${kind}: ${count} texts taken`);
}
console.log(found === 0 ? 'All survived.' : `${found} problems found.`);
process.exitCode = found === 0 ? 0 : 1;
