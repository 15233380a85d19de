import { mutate } from '../../tools/fuzz/mutate';
import { surviving } from '../../tools/fuzz/survive';
import { samples } from './files';

test.each(Object.entries(samples))(
  '%s: damaged files neither crash, hang nor give NaN',
  async (_, make) => {
    const whole = await make();
    for (let seed = 1; seed <= 80; seed++) {
      const { name, bytes } = mutate(whole, seed);
      const problem = await surviving(bytes);
      if (problem) throw new Error(`seed ${seed} (${name}): ${problem}`);
    }
  },
);
