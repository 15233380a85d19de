import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { killedRounds } from './rounds';

/** `npm run kill [COUNT] [SEED]`: pulls the plug at random moments and looks whether anything was lost. */
const [count = 50, seed = 1] = process.argv.slice(2).map(Number);
const dataDir = mkdtempSync(join(tmpdir(), 'bijou-kill-'));
const faults = await killedRounds(dataDir, count, seed, (round, sounds) =>
  console.log(`round ${round}: ${sounds} sounds`),
);
console.log(faults.length === 0 ? `Killed ${count} times, nothing lost.` : faults.join('\n'));
if (faults.length === 0) rmSync(dataDir, { recursive: true });
else console.log(`The data folder is kept: ${dataDir}`);
process.exitCode = faults.length === 0 ? 0 : 1;
