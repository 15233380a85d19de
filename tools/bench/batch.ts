import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { writeSound } from '@/core/formats/write';
import { pcmFromChannels } from '@/core/pcm/pcm';
import { writeTemporary } from '@/server/files/bytes';
import { WorkerPool } from '@/server/work/pool';
import { tonesAndNoise } from './signal';
import type { Table } from './types';

const FILES = 60;
const SECONDS = 30;
const RATE = 44_100;

async function run(source: string, folder: string, threads: number): Promise<number> {
  const pool = new WorkerPool(resolve('dist/worker.mjs'), threads);
  const build = (name: string) =>
    pool.run(
      {
        kind: 'encode',
        source,
        raw: null,
        sourceShape: { rateHz: RATE, channelCount: 2, frames: RATE * SECONDS },
        isCopy: false,
        recipe: { version: 1, steps: [] },
        writer: 'ogg',
        settings: { quality: 5 },
        output: join(folder, `${name}.ogg`),
      },
      { signal: new AbortController().signal, progress: () => undefined },
    );
  try {
    // Threads start and compile once; a server's are long there.
    await Promise.all(Array.from({ length: threads }, (_, n) => build(`warm-${threads}-${n}`)));
    const began = performance.now();
    await Promise.all(Array.from({ length: FILES }, (_, n) => build(`${threads}-${n}`)));
    return (performance.now() - began) / 1000;
  } finally {
    await pool.close();
  }
}

export async function batchTable(): Promise<Table> {
  const folder = await mkdtemp(join(tmpdir(), 'bijou-bench-'));
  try {
    const source = join(folder, 'source.wav');
    const sound = pcmFromChannels(tonesAndNoise(RATE, SECONDS, 2), RATE);
    await writeTemporary(source, (sink) => writeSound(sound, 'wav', { bits: 16 }, sink));
    const one = await run(source, folder, 1);
    const two = await run(source, folder, 2);
    const speed = (seconds: number) => `${Math.round((FILES * SECONDS) / seconds)} ×`;
    return {
      title: 'Batch',
      note:
        `${FILES} stereo files of ${SECONDS} s to Ogg Vorbis quality 5, each decoded again, measured and pictured, ` +
        'on worker threads as the server runs them. The bar is a speed-up of 1.7 on two cores.',
      columns: ['threads', 'took', 'real time', 'speed-up'],
      rows: [
        [1, `${one.toFixed(1)} s`, speed(one), '1.00'],
        [2, `${two.toFixed(1)} s`, speed(two), (one / two).toFixed(2)],
      ],
    };
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
