/** `npm run voice LIST.json [MODEL.json]`: learns what voices at the wrong speed are like, from recordings of people. */
import { install, run } from './setUp.mjs';

install();
run('npm', ['run', '--silent', 'bundle']);
run(process.execPath, ['dist/voice.mjs', ...process.argv.slice(2)]);
