/** `npm run fuzz [COUNT] [FIRST SEED] [KIND]`: the long fuzz run; the tests do a short one. */
import { mkdirSync } from 'node:fs';
import { install, run } from './setUp.mjs';

install();
mkdirSync('test-results', { recursive: true });
run('npm', ['run', '--silent', 'bundle']);
run(process.execPath, ['dist/fuzz.mjs', ...process.argv.slice(2)]);
