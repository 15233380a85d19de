import { structures } from '../../tools/fuzz/many';
import { mutate } from '../../tools/fuzz/mutate';
import { fuzzSeeds } from '../../tools/fuzz/seeds';
import { surviving } from '../../tools/fuzz/survive';

// The longer runs of `npm run fuzz` take larger ones.
const BYTES = 15_000;
const DAMAGED_FILES = 1;

const all = Object.entries(structures).flatMap(([kind, list]) =>
  Object.keys(list).map((name) => [kind, name] as const),
);

test.each(all)('%s made of very many small parts (%s) keeps nobody busy', async (kind, name) => {
  const whole = await fuzzSeeds[kind]!();
  const structure = structures[kind]![name]!;
  expect(await surviving(structure(whole, BYTES))).toBeNull();
  const few = structure(whole, 2_500);
  for (let seed = 1; seed <= DAMAGED_FILES; seed++) {
    expect(await surviving(mutate(few, seed).bytes)).toBeNull();
  }
});
