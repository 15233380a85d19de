import { appendFileSync } from 'node:fs';
import { join } from 'node:path';
import { MemorySink } from '@/core/bytes/source';
import { writeSound } from '@/core/formats/write';
import { pcmFromChannels } from '@/core/pcm/pcm';
import { builtinBriefs } from '@/core/brief/builtin';
import { openBijou, type Bijou } from '@/server/bijou';
import { randomOf } from '../fuzz/mutate';
import { makeZip } from '../made/zip';
import { LET_GO } from './verify';

/**
 * Works in a data folder without end, as people would: brings in, replaces, joins, shapes, builds, takes out,
 * undoes and cleans up, whatever chance says. Somebody else pulls the plug. What it was told is done goes into
 * a list first.
 */
const [dataDir = '', seed = '1'] = process.argv.slice(2);
const random = randomOf(Number(seed));
const upTo = (n: number) => Math.floor(random() * n);
const RATE = 8_000;

async function tone(): Promise<Uint8Array> {
  const sink = new MemorySink();
  const frames = 1_000 + upTo(60_000);
  const hz = 50 + upTo(3_000);
  const sound = Float32Array.from(
    { length: frames },
    (_, i) => Math.sin((i * hz * 6.28) / RATE) / 2,
  );
  await writeSound(pcmFromChannels([sound], RATE), 'wav', { bits: 16 }, sink);
  return sink.bytes();
}

async function* streamOf(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  for (let at = 0; at < bytes.length; at += 4_096) {
    yield bytes.subarray(at, at + 4_096);
    await new Promise((resume) => setImmediate(resume));
  }
}

const bijou: Bijou = await openBijou(dataDir);
const project = bijou.projects.all()[0]?.id ?? bijou.projects.add('Killed');

/** From here on it must not be lost. */
function told(what: string): void {
  appendFileSync(join(dataDir, 'told.txt'), `${what}\n`);
}

async function bringIn(files: Record<string, Uint8Array>): Promise<void> {
  const list = Object.entries(files);
  const announced = bijou.intakes.begin(
    project,
    list.map(([path, { length: bytes }]) => ({ path, bytes })),
  );
  for (const [i, { id }] of announced.entries()) {
    const bytes = list[i]![1];
    const { state, soundId } = await bijou.intakes.receive(id, streamOf(bytes), bytes.length);
    if (state === 'here') told(`sound ${soundId}`);
  }
}

const ready = () =>
  bijou.sounds.ofProject(project).filter(({ state, facts }) => state === 'ready' && facts);
const some = <T>(list: readonly T[]): T | undefined => list[upTo(list.length)];

const acts: (() => Promise<unknown> | void)[] = [
  async () => bringIn({ [`take ${upTo(8)}.wav`]: await tone() }),
  async () => bringIn({ [`take ${upTo(8)}.wav`]: await tone(), 'more.wav': await tone() }),
  async () =>
    bringIn({
      [`bag ${upTo(99)}.zip`]: makeZip([
        { name: `a ${upTo(9)}.wav`, content: await tone() },
        { name: `b ${upTo(9)}.wav`, content: await tone() },
        { name: 'inner.zip', content: makeZip([{ name: 'c.wav', content: await tone() }]) },
      ]),
    }),
  async () => {
    const decision = (['replace', 'add', 'keep', 'replace'] as const)[upTo(4)]!;
    told(LET_GO);
    const differing = bijou.intakes.arrivals(project, 'differs').map(({ id }) => id);
    await bijou.intakes.decide(project, differing, decision);
    const offered = bijou.intakes.arrivals(project, 'offered').map(({ id }) => id);
    await bijou.intakes.decide(project, offered, random() < 0.5 ? 'unpack' : 'keep');
  },
  () => {
    const parts = ready()
      .slice(upTo(3))
      .slice(0, 2 + upTo(3));
    if (parts.length < 2) return;
    bijou.joins.create(project, 'joined', {
      parts: parts.map(({ id }) => ({ soundId: id, gapSeconds: 0.01 })),
      overlap: 'crossfade',
      rateHz: null,
      channelCount: null,
    });
  },
  () => {
    const sound = some(ready());
    if (!sound) return;
    const gain = { kind: 'gain', on: true, params: { gainDb: -upTo(20) } };
    const reverse = { kind: 'reverse', on: true, params: {} };
    bijou.sounds.setRecipe(sound.id, { version: 1, steps: [gain, reverse].slice(upTo(2)) });
  },
  () => {
    const sound = some(ready());
    if (sound) bijou.packs.assign(sound, (['web-page', 'wav-master'] as const)[upTo(2)]!, {});
  },
  () => {
    if (bijou.packs.lines(project).some(({ obstacle }) => !obstacle)) bijou.packs.build(project);
  },
  () => {
    // More than is worked out within one change.
    const sounds = ready().map(({ id }) => id);
    const briefs = builtinBriefs.map(({ id }) => id);
    bijou.packs.send(project, { sounds, briefs }, { prefix: `p${upTo(9)}` });
    if (random() < 0.7) bijou.edits.undo(project);
    else bijou.packs.release(project, { sounds, briefs });
  },
  async () => {
    const { id } = await bijou.projects.copy(project);
    bijou.projects.remove(id);
    await bijou.projects.letGo(id);
  },
  async () => {
    const sound = some(ready());
    if (sound) bijou.edits.edit(project, [{ soundId: sound.id, removed: true }]);
  },
  () => void bijou.edits.undo(project),
  () => void bijou.edits.redo(project),
  async () => {
    if (random() > 0.3) return;
    told(LET_GO);
    await bijou.intakes.dismiss(project);
  },
  async () => {
    if (random() > 0.3) return;
    told(LET_GO);
    await bijou.cleaning.cleanUp(project);
  },
  () => bijou.jobs.idle(),
];

process.stdout.write('at work\n');
for (;;) {
  // What cannot be done right now is left.
  await Promise.resolve(some(acts)!()).catch(() => undefined);
}
