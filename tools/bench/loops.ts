import { spawn, type ChildProcess } from 'node:child_process';
import { text } from 'node:stream/consumers';
import { measureSeam } from '@/core/loop/seam';
import { proposeTempo } from '@/core/measure/tempo';
import { sourceFromChannels } from '@/core/pcm/source';
import { tonesAndNoise } from './signal';
import type { Table } from './types';

const RATE = 48_000;
/** Where edges are moved. */
const SECONDS = 300;
const TIMES = 50;

/** What the core takes for a loop, and how soon an edge that is moved is seen and heard in the browser. */
export async function loopsTable(): Promise<Table> {
  const sound = sourceFromChannels(tonesAndNoise(RATE, 120, 2), RATE);
  const loop = { startFrame: RATE, endFrame: 100 * RATE };
  await measureSeam(sound, loop);
  const seams = await timed(async () => {
    for (let i = 0; i < TIMES; i++) await measureSeam(sound, loop);
  });
  const tempo = await timed(() => proposeTempo(sound));
  const quiet = await inBrowser();
  const busy = [busyCore(), busyCore()];
  const loaded = await inBrowser().finally(() => busy.forEach((process) => process.kill()));
  return {
    title: 'Loops',
    note:
      'Stereo at 48 kHz. An edge is moved by one frame in the middle of five minutes, four times, while a loop of a ' +
      'twentieth of a second is heard: until its seam is heard as it is now, which comes by every 50 ms, and until ' +
      'the lens shows it, from the key. The bars are 200 ms and 50 ms on two busy cores.',
    columns: ['what', 'time'],
    rows: [
      ['figures of a seam', `${(seams / TIMES).toFixed(1)} ms`],
      ['tempo of two minutes', `${Math.round(tempo)} ms`],
      ...quiet.map(([what, time]) => [what!, time!]),
      ...loaded.map(([what, time]) => [`${what}, both cores busy`, time!]),
    ],
  };
}

async function timed(work: () => Promise<unknown>): Promise<number> {
  const began = performance.now();
  await work();
  return performance.now() - began;
}

/** What the story in the browser has measured. */
async function inBrowser(): Promise<string[][]> {
  const run = spawn('npx', ['playwright', 'test', '-g', 'an edge that is moved'], {
    stdio: ['ignore', 'pipe', 'inherit'],
    env: { ...process.env, BIJOU_LONG_SECONDS: String(SECONDS) },
  });
  const said = await text(run.stdout);
  return [...said.matchAll(/measured · (.+?): (.+)/g)].map(([, what, time]) => [what!, time!]);
}

function busyCore(): ChildProcess {
  return spawn(process.execPath, ['-e', 'for (;;);'], { stdio: 'ignore' });
}
