import { rmSync } from 'node:fs';
import { resolve } from 'node:path';
import { run } from '../../scripts/setUp.mjs';

/** Demo data that every worker's server gets a copy of. */
export const DEMO_DATA = resolve('test-results/demo-data');

/** Makes the demo data once, before the first test. */
export default function makeDemoData(): void {
  rmSync(DEMO_DATA, { recursive: true, force: true });
  run(process.execPath, ['dist/loadDemo.mjs'], { BIJOU_DATA: DEMO_DATA });
}
