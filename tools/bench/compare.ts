import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { MemorySink, memorySource } from '@/core/bytes/source';
import { parseCandidate } from '@/core/compare/candidates/text';
import { fidelity } from '@/core/compare/fidelity';
import { decodingCosts, measuredFile, USUAL_RUNS, type WorkFigures } from '@/core/compare/work';
import { writeSound } from '@/core/formats/write';
import { pcmFromChannels } from '@/core/pcm/pcm';
import { sourceFromChannels } from '@/core/pcm/source';
import { openBijou } from '@/server/bijou';
import { workClock } from '@/server/work/threadClock';
import { tonesAndNoise } from './signal';
import { best, timesRealTime, type Table } from './types';

const SECONDS = 30;
const TWELVE = [
  ...['mp3@96', 'mp3@128', 'mp3@192', 'ogg@q1', 'ogg@q3', 'ogg@q6'],
  ...['ogg/opus@64', 'ogg/opus@96', 'ogg/opus@160', 'm4a@96', 'm4a@128', 'm4a@192'],
];
const TIMED = ['mp3@128', 'ogg@q3', 'ogg/opus@96', 'm4a@96', 'wav/ima-adpcm', 'flac'];

/** What trials take, and how far two runs of timing agree. */
export async function compareTable(): Promise<Table> {
  const rows: string[][] = [];
  for (const rate of [44_100, 48_000]) {
    const source = tonesAndNoise(rate, SECONDS, 2);
    const decoded = source.map((channel) => channel.map((x, i) => x + 0.001 * Math.sin(i)));
    const sides = [source, decoded].map((side) => sourceFromChannels(side, rate));
    const seconds = await best(() => fidelity(sides[0]!, sides[1]!));
    rows.push([`all fidelity figures at ${rate} Hz`, timesRealTime(SECONDS, seconds), '20 ×']);
  }
  rows.push(...(await runRows()), ...(await agreementRows()));
  return {
    title: 'Compare',
    note:
      `${SECONDS} seconds of stereo. Twelve candidates through the server with two threads, from the call to the last ` +
      'figure. The decoders of six files are timed twice: medians and how far they lie apart, against the stated spread.',
    columns: ['', 'measured', 'bar'],
    rows,
  };
}

async function runRows(): Promise<string[][]> {
  const folder = await mkdtemp(join(tmpdir(), 'bijou-bench-'));
  const bijou = await openBijou(folder, { threads: 2 });
  try {
    const project = bijou.projects.add('Bench');
    const sink = new MemorySink();
    const sound = tonesAndNoise(48_000, SECONDS, 2);
    await writeSound(pcmFromChannels([...sound], 48_000), 'wav', { bits: 16 }, sink);
    const [arrival] = bijou.intakes.begin(project, [{ path: 'sound.wav', bytes: sink.size }]);
    async function* bytes() {
      yield sink.bytes();
    }
    await bijou.intakes.receive(arrival!.id, bytes(), sink.size);
    await bijou.jobs.idle();
    const { id } = bijou.sounds.ofProject(project)[0]!;
    const began = performance.now();
    const since = () => `${((performance.now() - began) / 1000).toFixed(1)} s`;
    const run = bijou.trying.begin(project, [id], TWELVE.map(parseCandidate));
    const found = { bytes: '', first: '', all: '' };
    for (;;) {
      const { trials } = bijou.comparisons.details(run);
      if (trials.some((one) => one.bytes !== null)) found.bytes ||= since();
      if (trials.some((one) => one.measured)) found.first ||= since();
      if (trials.every((one) => one.measured)) found.all ||= since();
      if (trials.every((one) => one.measured?.work)) break;
      await new Promise((done) => setTimeout(done, 50));
    }
    return [
      ['12 candidates: the first size', found.bytes, '3 s'],
      ['12 candidates: the first of all figures', found.first, ''],
      ['12 candidates: all measured', found.all, ''],
      ['12 candidates: and timed', since(), '40 s'],
    ];
  } finally {
    await bijou.close();
    await rm(folder, { recursive: true, force: true });
  }
}

async function agreementRows(): Promise<string[][]> {
  const sound = tonesAndNoise(48_000, 10, 2);
  const files = await Promise.all(
    TIMED.map(async (text) => {
      const { writer, settings } = parseCandidate(text);
      const sink = new MemorySink();
      await writeSound(pcmFromChannels([...sound], 48_000), writer, settings, sink);
      return measuredFile(memorySource(sink.bytes()), undefined, { writer, settings });
    }),
  );
  const options = { runs: USUAL_RUNS, clock: workClock.now, isOwnClock: workClock.isOwn };
  const [one, two] = [await decodingCosts(files, options), await decodingCosts(files, options)];
  return TIMED.map((text, i) => {
    const [a, b] = [one[i]!, two[i]!].map(({ msPerSecond }: WorkFigures) => msPerSecond) as [
      WorkFigures['msPerSecond'],
      WorkFigures['msPerSecond'],
    ];
    const apart = Math.abs(a.median / b.median - 1);
    const spread = (a.high - a.low) / a.median;
    return [
      `decoding ${text}`,
      `${a.median.toFixed(2)} and ${b.median.toFixed(2)} ms/s, ${(100 * apart).toFixed(1)} % apart`,
      `within ${(100 * spread).toFixed(0)} %`,
    ];
  });
}
