import { openBijou } from '@/server/bijou';
import { resolve } from 'node:path';
import { packState, unpackState } from '@/ui/shared/travelling';
const b = await openBijou('/tmp/island', { worker: resolve('dist/worker.mjs') });
const p = b.projects.all().at(-1)!.id;
for (let i = 0; i < 8; i++) {
  const t0 = performance.now();
  const s = b.projectState(p);
  const t1 = performance.now();
  const text = packState(s);
  const t2 = performance.now();
  const back = unpackState(text);
  const t3 = performance.now();
  console.log('state', (t1 - t0).toFixed(0), 'pack', (t2 - t1).toFixed(0), 'unpack', (t3 - t2).toFixed(0), text.length, back.sounds.length);
}
await b.close();
process.exit(0);
