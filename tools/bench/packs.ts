import { copyFile, mkdir, mkdtemp, open, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { mendJson } from '@/core/pack/mend/mend';
import { MemorySink } from '@/core/bytes/source';
import { writeSound } from '@/core/formats/write';
import { pcmFromChannels } from '@/core/pcm/pcm';
import { openBijou, type Bijou } from '@/server/bijou';
import { zipStream } from '@/server/files/zipping';
import { tonesAndNoise } from './signal';
import type { Table } from './types';

const SOUNDS = 1_000;
const RATE = 44_100;
const SECONDS = 0.5;
/** What a large pack is made of. */
const LARGE_FILES = 20;
const LARGE_BYTES = 100e6;

/** A project with sounds that go as they are to a destination with an index of calls and a list of assets. */
async function makeProject(bijou: Bijou): Promise<{ project: number; brief: string }> {
  const project = bijou.projects.add('Bench');
  const ids: number[] = [];
  const [channel] = tonesAndNoise(RATE, SECONDS, 1);
  for (let n = 0; n < SOUNDS; n++) {
    channel![0] = n / SOUNDS;
    const sink = new MemorySink();
    await writeSound(pcmFromChannels([channel!], RATE), 'wav', { bits: 16 }, sink);
    const bytes = sink.bytes();
    const stream = (async function* () {
      yield bytes;
    })();
    ids.push((await bijou.sounds.add(project, `s_${n}.wav`, stream, bytes.length)).sound.id);
  }
  await bijou.jobs.idle();
  const text = {
    ...{ id: 'bench', version: 1, title: 'Bench', purpose: 'A bench.', notes: [] },
    files: [{ id: 'wav', writer: 'wav', settings: {} }],
    layout: {
      texts: [
        { path: 'assets.json', manifest: 'asset-list' },
        { path: 'calls.json', manifest: 'calls' },
      ],
    },
  };
  const { id: brief } = bijou.ownBriefs.bringIn(project, JSON.stringify(text)).brief;
  bijou.packs.send(project, { sounds: ids, briefs: [brief] });
  bijou.packs.build(project);
  await bijou.jobs.idle();
  return { project, brief };
}

async function timed(work: () => Promise<unknown> | unknown): Promise<number> {
  const began = performance.now();
  await work();
  return (performance.now() - began) / 1000;
}

async function drained(stream: ReadableStream<Uint8Array>): Promise<number> {
  let bytes = 0;
  let most = 0;
  for await (const piece of stream as unknown as AsyncIterable<Uint8Array>) {
    bytes += piece.length;
    if (bytes % 64 < 8) most = Math.max(most, process.memoryUsage().rss);
  }
  return Math.max(most, process.memoryUsage().rss);
}

/** What writing a zip of large files takes beyond what the application has anyway, in bytes. */
async function largeZip(folder: string): Promise<{ seconds: number; memory: number }> {
  const file = join(folder, 'large');
  const handle = await open(file, 'w');
  const block = Buffer.alloc(1e6, 7);
  for (let at = 0; at < LARGE_BYTES; at += block.length) await handle.write(block);
  await handle.close();
  let memory = 0;
  const before = process.memoryUsage().rss;
  const seconds = await timed(async () => {
    const files = (async function* () {
      for (let n = 0; n < LARGE_FILES; n++) yield { path: `f${n}.wav`, content: { file } };
    })();
    memory = await drained(zipStream(files));
  });
  return { seconds, memory: Math.max(0, memory - before) };
}

export async function packsTable(): Promise<Table> {
  const folder = await mkdtemp(join(tmpdir(), 'bijou-bench-'));
  const bijou = await openBijou(join(folder, 'data'), { worker: resolve('dist/worker.mjs') });
  try {
    const { project, brief } = await makeProject(bijou);
    const outlined = await timed(() => bijou.packing.outline(project, [brief]));
    let packId = 0;
    const made = await timed(async () => {
      packId = (await bijou.packing.make(project, [brief])).id;
      await bijou.jobs.idle();
    });
    const zipped = await timed(() => drained(bijou.packing.zip(packId).stream));
    const copied = await timed(async () => {
      await mkdir(join(folder, 'copy'));
      for (const { path, sha256 } of bijou.packing.filesOf(packId)) {
        await copyFile(bijou.store.path(sha256), join(folder, 'copy', path));
      }
    });
    const large = await largeZip(folder);
    const index = JSON.stringify(
      {
        calls: Array.from({ length: 10_000 }, (_, i) => ({
          id: `c${i}`,
          variants: [{ path: `s_${i}.wav`, odds: 1 }],
        })),
      },
      null,
      1,
    );
    const hurt = index.replace('"c5000",', '"c5000"').replace('"c9000",', '"c9000"');
    const mended = await timed(() => mendJson(hurt));
    return {
      title: 'Packs',
      note: `${SOUNDS} outputs of ${SECONDS} s with an index of calls and a list of assets, all built before; ${LARGE_FILES} files of ${LARGE_BYTES / 1e6} MB in one zip; 10,000 calls with two commas missing.`,
      columns: ['what', 'seconds', 'more memory'],
      rows: [
        ['laying out and checking', outlined.toFixed(2), ''],
        ['making: checked to the last byte, and written down', made.toFixed(2), ''],
        ['writing the zip', zipped.toFixed(2), ''],
        ['copying the same files alone', copied.toFixed(2), ''],
        ['a zip of 2 GB', large.seconds.toFixed(1), `${Math.round(large.memory / 1e6)} MB`],
        ['mending the index', mended.toFixed(2), ''],
      ],
    };
  } finally {
    await bijou.close();
    await rm(folder, { recursive: true, force: true });
  }
}
