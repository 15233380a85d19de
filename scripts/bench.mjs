/** `npm run bench`: figures for docs/benchmarks.md; never part of the tests. */
import { install, run } from './setUp.mjs';

install();
run('npm', ['run', '--silent', 'bundle']);
run(process.execPath, ['dist/bench.mjs', ...process.argv.slice(2)]);
