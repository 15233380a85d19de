import { writeFile } from 'node:fs/promises';
import { mutate } from './mutate';
import { fuzzSeeds } from './seeds';
import { surviving } from './survive';

/** `npm run fuzz [COUNT] [FIRST SEED]`: damages real files and decodes them. What does not survive is written down. */
const [count = 1_000, first = 1] = process.argv.slice(2).map(Number);
let found = 0;
for (const [kind, make] of Object.entries(fuzzSeeds)) {
  const whole = await make();
  for (let seed = first; seed < first + count; seed++) {
    const { name, bytes } = mutate(whole, seed);
    const problem = await surviving(bytes);
    if (!problem) continue;
    found++;
    const path = `test-results/fuzz-${kind.replace(' ', '-')}-${seed}.bin`;
    await writeFile(path, bytes);
    console.log(`${kind}, seed ${seed} (${name}): ${problem}. Kept as ${path}.`);
  }
  console.log(`${kind}: ${count} damaged files decoded`);
}
console.log(found === 0 ? 'All survived.' : `${found} problems found.`);
process.exitCode = found === 0 ? 0 : 1;
