/** `npm run kill [COUNT] [SEED]`: the long run of pulling the plug; the tests do a short one. */
import { install, run } from './setUp.mjs';

install();
run('npm', ['run', '--silent', 'bundle']);
run(process.execPath, ['dist/kill.mjs', ...process.argv.slice(2)]);
