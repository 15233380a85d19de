import { writeFile } from 'node:fs/promises';
import { structures } from './many';
import { mutate, randomOf } from './mutate';
import { fuzzSeeds } from './seeds';
import { surviving } from './survive';

/**
 * `npm run fuzz [COUNT] [FIRST SEED] [KIND]`: damages real files of every kind, and files of very many small parts
 * made of them, which are a third of all, and decodes them. What does not survive is written down.
 */
const [count = 1_000, first = 1] = process.argv.slice(2, 4).map(Number);
const only = process.argv[4];
const LARGE_BYTES = 8e6;
const MOST_SMALL_BYTES = 200_000;

let found = 0;
async function judge(what: string, bytes: Uint8Array): Promise<void> {
  const problem = await surviving(bytes);
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
console.log(found === 0 ? 'All survived.' : `${found} problems found.`);
process.exitCode = found === 0 ? 0 : 1;
