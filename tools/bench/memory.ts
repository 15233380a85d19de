import { spawnSync } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { writers } from '@/core/formats';
import { writeSound } from '@/core/formats/write';
import type { Block, PcmStream } from '@/core/pcm/pcm';
import { writeTemporary } from '@/server/files/bytes';
import { tonesAndNoise } from './signal';
import type { Table } from './types';

const RATE = 48_000;
const MINUTES = 60;
const REPORT =
  "data:text/javascript,process.on('exit',()=>process.stderr.write('maxRSS '+process.resourceUsage().maxRSS+'\\n'))";

/** An hour of sound that is never in memory as a whole. */
function hour(): PcmStream {
  const second = tonesAndNoise(RATE, 1, 2);
  async function* blocks(): AsyncGenerator<Block> {
    for (let i = 0; i < MINUTES * 60; i++) yield second;
  }
  return {
    rateHz: RATE,
    channelCount: 2,
    frames: RATE * 60 * MINUTES,
    gridBits: null,
    blocks: blocks(),
  };
}

export async function memoryTable(): Promise<Table> {
  const folder = await mkdtemp(join(tmpdir(), 'bijou-bench-'));
  try {
    const source = join(folder, 'hour.wav');
    await writeTemporary(source, (sink) => writeSound(hour(), 'wav', { bits: 24 }, sink));
    const call = ['--import', REPORT, 'bin/bijou', 'convert', source, '--suffix', '-out'];
    const rows = writers.map(({ format, codec, name }) => {
      const began = performance.now();
      const { stderr, status } = spawnSync(
        process.execPath,
        [...call, '--out', folder, '--format', format, '--codec', codec, '--overwrite'],
        { encoding: 'utf8' },
      );
      if (status !== 0) throw new Error(stderr);
      const seconds = (performance.now() - began) / 1000;
      const kilobytes = Number(/maxRSS (\d+)/.exec(stderr)?.[1]);
      return [name, `${Math.round(kilobytes / 1024)} MB`, `${Math.round(seconds)} s`];
    });
    return {
      title: 'Memory',
      note:
        'Largest resident memory of `bijou convert` on an hour of 48 kHz stereo 24-bit WAV (1.04 GB), ' +
        'decoding the result again included. The bar is 400 MB.',
      columns: ['to', 'peak resident', 'took'],
      rows,
    };
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
