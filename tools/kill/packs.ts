import { createHash } from 'node:crypto';
import { mkdir, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { MemorySink } from '@/core/bytes/source';
import { writeSound } from '@/core/formats/write';
import { pcmFromChannels } from '@/core/pcm/pcm';
import { openBijou } from '@/server/bijou';
import { randomOf } from '../fuzz/mutate';
import {
  full,
  isThere,
  killed,
  mounted,
  readOnly,
  stopped,
  struck,
  unmounted,
  vanished,
  type Fault,
} from './faults';

const SOUNDS = 8;
const RATE = 8_000;

/** Files of somebody else, among which everything happens. */
const theirs: Record<string, string> = {
  'letter.txt': 'Dear keeper,',
  'results/notes.txt': 'mine',
  'results/isle notes/tide.txt': 'mine as well',
  'results/built/readme.txt': 'read me',
  'results/built/own-isle/sketch.wav': 'a sketch',
  'results/.bijou-1-pack.part': 'looks like ours',
};

/**
 * Strikes calls of `pack` and `build` at random moments, `count` times over: killed, stopped, the disk full or read-only,
 * the target gone. Answers what was lost or broken, with the round in which it was found.
 */
export async function struckRounds(
  folder: string,
  count: number,
  seed: number,
  tell: (round: number, what: string) => void = () => undefined,
): Promise<string[]> {
  const random = randomOf(seed);
  const [dataDir, disk] = [join(folder, 'data'), join(folder, 'disk')];
  await project(dataDir);
  const isDisk = await mounted(disk, 6);
  const faults: Fault[] = [killed, killed, stopped, vanished, ...(isDisk ? [full, readOnly] : [])];
  try {
    for (const [path, text] of Object.entries(theirs)) {
      await mkdir(join(disk, path, '..'), { recursive: true });
      await writeFile(join(disk, path), text);
    }
    const found: string[] = [];
    // Everything as it is meant to be, for each of two titles.
    const right = new Map<string, Set<string>>();
    const longestMs = new Map<string, number>();
    for (const title of ['Ebb', 'Flood']) {
      for (const call of calls(title)) {
        const begun = performance.now();
        const { status, err } = await struck(dataDir, disk, call.args, null, 0);
        const ms = performance.now() - begun;
        longestMs.set(call.out, Math.max(longestMs.get(call.out) ?? 0, ms));
        if (status !== 0) found.push(`${call.out} with nothing in its way: ${err}`);
        right.set(call.out, (right.get(call.out) ?? new Set()).add(await stateOf(disk, call)));
      }
    }
    for (let round = 1; round <= count; round++) {
      const list = calls(random() < 0.5 ? 'Ebb' : 'Flood');
      const call = list[Math.floor(random() * list.length)]!;
      const fault = faults[Math.floor(random() * faults.length)]!;
      if (call.out === BUILT) await forget(join(disk, BUILT));
      const afterMs = random() * longestMs.get(call.out)!;
      const { name, status } = await struck(dataDir, disk, call.args, fault, afterMs);
      tell(round, `${call.out}: ${name}, ${status}`);
      const say = (what: string) => found.push(`round ${round}, ${call.out}, ${name}: ${what}`);
      for (const lost of await lostOf(disk)) say(lost);
      if (!right.get(call.out)!.has(await stateOf(disk, call))) say('neither old nor new is there');
      const next = await struck(dataDir, disk, call.args, null, 0);
      if (next.status !== 0) say(`the next call: ${next.err}`);
      if (!right.get(call.out)!.has(await stateOf(disk, call))) say('the next call has left less');
      for (const lost of await lostOf(disk)) say(`then ${lost}`);
      for (const left of await leftOf(disk)) say(`${left} is left`);
    }
    return found;
  } finally {
    if (isDisk) unmounted(disk);
  }
}

/** Takes away what was built, so that there is something to do. */
async function forget(folder: string): Promise<void> {
  for (const path of await filesIn(folder)) {
    if (path.endsWith('.ogg')) await rm(join(folder, path));
  }
}

const BUILT = 'results/built';

interface Call {
  out: string;
  args: string[];
}

function calls(title: string): Call[] {
  const pack = ['pack', '--project', 'Skerry', '--brief', 'own-isle', '--title', title];
  return [
    { out: 'results/isle', args: [...pack, '--out', 'results/isle'] },
    { out: 'results/isle.zip', args: [...pack, '--out', 'results/isle.zip'] },
    { out: 'results/kept', args: [...pack, '--out', 'results/kept', '--work', 'results/work'] },
    {
      out: BUILT,
      args: ['build', '--project', 'Skerry', '--brief', 'own-isle', '--out', BUILT],
    },
  ];
}

/** What lies at the place of a result: one word for its whole content; of an exchange that was cut short, the old one. */
async function stateOf(disk: string, { out }: Call): Promise<string> {
  const place = join(disk, out);
  const name = out.slice(out.indexOf('/') + 1);
  const old = join(disk, 'results', `.${name}.bijou-old`);
  const at = (await isThere(place)) ? place : old;
  if (!(await isThere(at))) return 'nothing';
  if (out.endsWith('.zip')) return sha256(await readFile(at));
  // Of a build every file is whole by itself; what is not there yet is built by the next call.
  const paths = await filesIn(at);
  const states = await Promise.all(
    paths.map(async (path) => `${path} ${sha256(await readFile(join(at, path)))}`),
  );
  return out === BUILT ? brokenOf(states) : states.join('\n');
}

/** Files of a build that are not as they have to be: the first state that is seen is the right one. */
const builtFiles = new Map<string, string>();
function brokenOf(states: readonly string[]): string {
  const broken: string[] = [];
  for (const state of states) {
    const [path = '', hash = ''] = state.split(/ (?=[0-9a-f]{64}$)/);
    if (!path.endsWith('.ogg')) continue;
    if (!builtFiles.has(path)) builtFiles.set(path, hash);
    else if (builtFiles.get(path) !== hash) broken.push(path);
  }
  return broken.length === 0 ? 'every file is whole' : `broken: ${broken.join(', ')}`;
}

async function lostOf(disk: string): Promise<string[]> {
  const lost: string[] = [];
  for (const [path, text] of Object.entries(theirs)) {
    const is = await readFile(join(disk, path), 'utf8').catch(() => null);
    if (is !== text) lost.push(`${path} is ${is === null ? 'gone' : 'another one'}`);
  }
  return lost;
}

/** What calls have left unfinished. */
async function leftOf(disk: string): Promise<string[]> {
  const paths = await readdir(disk, { recursive: true });
  return paths.filter((path) => /\.bijou-(.*\.part|old|.*lock)$/.test(path) && !(path in theirs));
}

async function filesIn(folder: string): Promise<string[]> {
  const entries = await readdir(folder, { recursive: true, withFileTypes: true });
  return entries
    .filter((entry) => entry.isFile() && !entry.name.startsWith('.bijou'))
    .map(({ name, parentPath }) => join(parentPath, name).slice(folder.length + 1))
    .sort();
}

const sha256 = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');

/** A project of short sounds that go to a destination of its own. */
async function project(dataDir: string): Promise<void> {
  const bijou = await openBijou(dataDir);
  try {
    const id = bijou.projects.add('Skerry');
    const { brief } = bijou.ownBriefs.bringIn(id, JSON.stringify(isle));
    const sounds: number[] = [];
    for (let n = 0; n < SOUNDS; n++) {
      const sink = new MemorySink();
      const tone = Float32Array.from({ length: RATE * (1 + n) }, (_, i) => Math.sin(i * n) / 3);
      await writeSound(pcmFromChannels([tone], RATE), 'wav', { bits: 16 }, sink);
      const bytes = sink.bytes();
      const { sound } = await bijou.sounds.add(id, `${n}.wav`, [bytes] as never, bytes.length);
      sounds.push(sound.id);
    }
    await bijou.jobs.idle();
    bijou.packs.send(id, { sounds, briefs: [brief.id] });
  } finally {
    await bijou.close();
  }
}

const isle = {
  ...{ id: 'isle', version: 1, title: 'Isle', purpose: 'A game.', notes: [] },
  files: [{ id: 'ogg', writer: 'ogg', settings: { quality: 3 } }],
  layout: {
    texts: [{ path: 'isle.json', is: 'json', template: '{ "title": "{{title}}" }\n' }],
  },
};
