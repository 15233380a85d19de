import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Choices } from '@/core/brief/choices';
import { encode } from '../core/files';
import { noise } from '../core/signals';
import { freshBijou, streamOf } from '../server/folder';
import { bijouFed, bijouOver, type Ran } from './run';

export const RATE = 44_100;

/** A project of these sounds, each sent to destinations; the application is closed unless it is to stay open. */
export async function projectWith(
  sounds: Record<string, { bytes: Uint8Array; group?: string; to: Record<string, Choices> }>,
  isOpen = false,
) {
  const { bijou, folder } = await freshBijou();
  const project = bijou.projects.add('Skerry');
  for (const [fileName, { bytes, group = '', to }] of Object.entries(sounds)) {
    const { sound } = await bijou.sounds.add(project, fileName, streamOf(bytes), bytes.length, {
      group,
    });
    await bijou.jobs.idle();
    for (const [brief, choices] of Object.entries(to)) {
      bijou.packs.assign(bijou.sounds.byId(sound.id), brief, choices);
    }
  }
  if (!isOpen) await bijou.close();
  return { folder, bijou, project };
}

const argsOf = (out: string, more: readonly string[]) => [
  ...['build', '--project', 'Skerry', '--out', out, '--json', ...more],
];
const cwdOf = (out: string) => (out === '' ? '/' : join(out, '..'));
const printed = (ran: Ran) => ({
  ...ran,
  ...(ran.out ? (JSON.parse(ran.out) as Printed) : ({} as Printed)),
});

/** Runs `bijou build` over a data folder and answers what it printed. */
export const build = async (data: string, out: string, ...more: string[]) =>
  printed(await bijouOver(data, cwdOf(out), ...argsOf(out, more)));

/** The same in a process of its own, which holds nothing open when it has ended. */
export const buildApart = async (data: string, out: string, ...more: string[]) =>
  printed(await bijouFed(null, { BIJOU_DATA: data }, cwdOf(out), ...argsOf(out, more)));

export interface Printed {
  outputs: {
    sound: string;
    path: string;
    state: string;
    bytes: number | null;
    sha256: string | null;
    verified: { demand: string; asked: string; found: string; verdict: string }[];
    error?: { code: string; message: string };
  }[];
  totals: Record<string, number>;
}
export const tone = (seed: number, channels = 1) =>
  encode(
    Array.from({ length: channels }, (_, c) => noise(4_410, seed + c)),
    RATE,
    'wav',
    { bits: 16 },
  );
export const states = ({ outputs }: Printed) =>
  Object.fromEntries(outputs.map(({ path, state }) => [path, state]));
export const sha256 = async (path: string) =>
  createHash('sha256')
    .update(await readFile(path))
    .digest('hex');
