import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { struckRounds } from './packs';
import { killedRounds } from './rounds';

/**
 * `npm run kill [COUNT] [SEED]`: pulls the plug at random moments, of the application and of the command line, and looks
 * whether anything was lost.
 */
const [count = 50, seed = 1] = process.argv.slice(2).map(Number);
const folder = mkdtempSync(join(tmpdir(), 'bijou-kill-'));
const lost = await killedRounds(join(folder, 'killed'), count, seed, (round, sounds) =>
  console.log(`round ${round}: ${sounds} sounds`),
);
const broken = await struckRounds(join(folder, 'struck'), count, seed, (round, what) =>
  console.log(`round ${round}: ${what}`),
);
const faults = [...lost, ...broken];
console.log(faults.length === 0 ? `Struck twice ${count} times, nothing lost.` : faults.join('\n'));
if (faults.length === 0) rmSync(folder, { recursive: true });
else console.log(`Everything is kept: ${folder}`);
process.exitCode = faults.length === 0 ? 0 : 1;
