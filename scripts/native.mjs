/** `npm run native`: measures what C libraries need to decode; never part of the tests. */
import { install, run } from './setUp.mjs';

install();
run('npm', ['run', '--silent', 'bundle']);
run(process.execPath, ['dist/native.mjs']);
