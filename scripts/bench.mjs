/** `npm run bench`: figures for docs/benchmarks.md; never part of the tests. */
import { build, install, run } from './setUp.mjs';

install();
build();
run(process.execPath, ['dist/bench.mjs', ...process.argv.slice(2)]);
