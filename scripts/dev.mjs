/** `npm run dev`: the development server on the demo data. */
import { install, run } from './setUp.mjs';

install();
run('npm', ['run', '--silent', 'bundle']);
run(process.execPath, ['dist/loadDemo.mjs']);
run('npx', ['next', 'dev', '-H', '127.0.0.1', '-p', process.env.PORT ?? '4310']);
