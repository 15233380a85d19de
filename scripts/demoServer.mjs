/** The built application over demo data in a temporary folder: for tests and screenshots. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { endTogether, run, start } from './setUp.mjs';

const port = Number(process.argv[2]);
const dataDir = mkdtempSync(join(tmpdir(), 'bijou-demo-'));
run(process.execPath, ['dist/loadDemo.mjs'], { BIJOU_DATA: dataDir });
const { server } = await start({ port, dataDir, stdio: 'inherit' });
endTogether(server, () => rmSync(dataDir, { recursive: true, force: true }));
