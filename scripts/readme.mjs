/** `npm run readme`: writes the tables of formats into the README from the code's own table. */
import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root, run } from './setUp.mjs';

run('npm', ['run', '--silent', 'bundle']);
const tables = execFileSync(process.execPath, [
  join(root, 'bin', 'bijou'),
  'formats',
  '--markdown',
]);
const path = join(root, 'README.md');
const between = /(<!-- formats: [^>]*-->\n)[^]*(<!-- \/formats -->)/;
writeFileSync(path, readFileSync(path, 'utf8').replace(between, `$1\n${tables}\n$2`));
run('npx', ['prettier', '--write', '--log-level', 'warn', 'README.md']);
