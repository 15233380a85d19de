import { createHash } from 'node:crypto';
import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { run } from '../scripts/setUp.mjs';

/** Demo data as this Bijou makes it; tests work on copies. */
export const DEMO_DATA = resolve('test-results/demo-data');

/** Makes the demo data, once for all tests. It takes a minute of both cores. */
export default function makeDemoData(): void {
  // Names of the bundle's parts tell their content apart: what holds them tells everything apart that makes the data.
  const hash = createHash('sha256');
  for (const entry of ['loadDemo', 'worker']) hash.update(readFileSync(`dist/${entry}.mjs`));
  const maker = hash.digest('hex');
  const madeBy = `${DEMO_DATA}.made-by`;
  if (existsSync(madeBy) && readFileSync(madeBy, 'utf8') === maker) return;
  for (const path of [madeBy, DEMO_DATA]) rmSync(path, { recursive: true, force: true });
  run(process.execPath, ['dist/loadDemo.mjs'], { BIJOU_DATA: DEMO_DATA });
  writeFileSync(madeBy, maker);
}
