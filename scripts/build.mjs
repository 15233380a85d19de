/** `npm run build`: the workers and the pages. */
import { run } from './setUp.mjs';

run('npm', ['run', '--silent', 'bundle']);
run('npx', ['next', 'build']);
