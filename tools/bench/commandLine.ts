import { spawn } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { writeSound } from '@/core/formats/write';
import { pcmFromChannels, sliceBlock } from '@/core/pcm/pcm';
import { writeTemporary } from '@/server/files/bytes';
import { tonesAndNoise } from './signal';
import type { Table } from './types';

const CONVERTED = 252;
const READ = 400;
const RATE = 44_100;
const [SHORTEST, LONGEST] = [0.05, 30];

/** Lengths as effects and music have them: as many between 0.1 and 1 s as between 1 and 10 s. */
function secondsOf(n: number): number {
  return SHORTEST * (LONGEST / SHORTEST) ** ((n * 0.618) % 1);
}

async function writeSounds(folder: string, count: number): Promise<number> {
  const whole = tonesAndNoise(RATE, LONGEST, 2);
  let seconds = 0;
  for (let n = 0; n < count; n++) {
    const frames = Math.round(secondsOf(n) * RATE);
    seconds += frames / RATE;
    const sound = pcmFromChannels([...sliceBlock(whole, 0, frames)], RATE);
    const path = join(folder, `${n}.wav`);
    await writeTemporary(path, (sink) => writeSound(sound, 'wav', { bits: 16 }, sink));
  }
  return seconds;
}

/** Runs `bijou` and answers how long it took until its first output and until its end, in seconds. */
function timed(...args: string[]): Promise<{ first: number; whole: number }> {
  const began = performance.now();
  const since = () => (performance.now() - began) / 1000;
  return new Promise((done, failed) => {
    const child = spawn(process.execPath, [resolve('bin/bijou'), ...args], {
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    let first = 0;
    child.stdout.on('data', () => (first ||= since()));
    child.on('error', failed);
    child.on('close', (status) =>
      status === 0 ? done({ first, whole: since() }) : failed(new Error(`bijou ended: ${status}`)),
    );
  });
}

const shortest = async (work: () => Promise<number>) => {
  const times = [];
  for (let i = 0; i < 5; i++) times.push(await work());
  return Math.min(...times);
};

/** What the command line takes for many files, and for none. */
export async function commandLineTable(): Promise<Table> {
  const folder = await mkdtemp(join(tmpdir(), 'bijou-bench-'));
  try {
    const [few, many] = [join(folder, 'few'), join(folder, 'many')];
    const [fewSeconds, manySeconds] = [
      await writeSounds(few, CONVERTED),
      await writeSounds(many, READ),
    ];
    const convert = async (threads: number) =>
      (
        await timed(
          'convert',
          few,
          '--out',
          join(folder, `o${threads}`),
          '--format',
          'ogg',
          '--threads',
          String(threads),
        )
      ).whole;
    const read = async (threads: number) =>
      (await timed('probe', many, '--threads', String(threads))).whole;
    const rows: Table['rows'] = [];
    for (const [what, run, seconds] of [
      [`${CONVERTED} files to Ogg Vorbis`, convert, fewSeconds],
      [`${READ} files read`, read, manySeconds],
    ] as const) {
      const [one, two] = [await run(1), await run(2)];
      rows.push([
        `${what}, one thread`,
        `${one.toFixed(1)} s, ${Math.round(seconds / one)} ×`,
        '–',
      ]);
      rows.push([
        `${what}, two threads`,
        `${two.toFixed(1)} s, ${Math.round(seconds / two)} ×`,
        `${(one / two).toFixed(2)} × faster (bar 1.7)`,
      ]);
    }
    const ms = (seconds: number) => `${Math.round(seconds * 1000)} ms`;
    const one = join(few, '0.wav');
    const first = (format: string) =>
      shortest(
        async () =>
          (
            await timed(
              'convert',
              one,
              '--out',
              join(folder, 'first'),
              '--format',
              format,
              '--overwrite',
            )
          ).first,
      );
    rows.push(['first output, one short file to WAV', ms(await first('wav')), 'bar 400 ms']);
    rows.push(['first output, one short file to Ogg Vorbis', ms(await first('ogg')), 'bar 400 ms']);
    rows.push([
      'first output, of 252 files',
      ms(await shortest(async () => (await timed('probe', few)).first)),
      'bar 400 ms',
    ]);
    rows.push([
      '--help',
      ms(await shortest(async () => (await timed('--help')).whole)),
      'bar 200 ms',
    ]);
    rows.push([
      'convert --help',
      ms(await shortest(async () => (await timed('convert', '--help')).whole)),
      'bar 200 ms',
    ]);
    return {
      title: 'Command line',
      note:
        `Stereo WAV files of ${SHORTEST} to ${LONGEST} s (${Math.round(fewSeconds / 60)} and ${Math.round(manySeconds / 60)} minutes in all), each written, decoded again ` +
        'and measured, from the call to its end; and how long it takes until something is said.',
      columns: ['', 'took', ''],
      rows,
    };
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
