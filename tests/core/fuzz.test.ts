import { mutate } from '../../tools/fuzz/mutate';
import { fuzzSeeds } from '../../tools/fuzz/seeds';
import { surviving } from '../../tools/fuzz/survive';

// `npm run fuzz` takes thousands.
const DAMAGED_FILES = 10;

test.each(Object.entries(fuzzSeeds))(
  '%s: whole it decodes; damaged files neither crash, hang nor give NaN',
  async (_, make) => {
    const whole = await make();
    expect(await surviving(whole)).toBeNull();
    for (let seed = 1; seed <= DAMAGED_FILES; seed++) {
      const { name, bytes } = mutate(whole, seed);
      const problem = await surviving(bytes);
      if (problem) throw new Error(`seed ${seed} (${name}): ${problem}`);
    }
  },
);

test('what once kept a decoder busy does so no more', async () => {
  const alac = await fuzzSeeds['m4a alac']!();
  expect(await surviving(mutate(alac, 5_251).bytes)).toBeNull();
});
