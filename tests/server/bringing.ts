import type { Bijou } from '@/server/bijou';
import type { Settlement } from '@/server/db/intakes';
import { encode } from '../core/files';
import { sine } from '../core/signals';
import { streamOf } from './folder';

/** A short tone as a WAV file; another pitch is another file. */
export function tone(hz: number, frames = 2_000): Promise<Uint8Array> {
  return encode([sine(8_000, hz, frames)], 8_000, 'wav', { bits: 16 });
}

/** A tone behind half a second of silence, which is a worry that can be cured. */
export function lateTone(hz: number): Promise<Uint8Array> {
  const sound = [...new Float32Array(4_000), ...sine(8_000, hz, 8_000)];
  return encode([Float32Array.from(sound)], 8_000, 'wav', { bits: 16 }, 16);
}

/** Brings files in as a page does: announced together, sent one by one, read to the end. */
export async function bringIn(
  bijou: Bijou,
  project: number,
  files: Readonly<Record<string, Uint8Array>>,
): Promise<(Settlement | null)[]> {
  const entries = Object.entries(files);
  const announced = bijou.intakes.begin(
    project,
    entries.map(([path, { length: bytes }]) => ({ path, bytes })),
  );
  const settled: (Settlement | null)[] = [];
  for (const [i, { id, isWanted }] of announced.entries()) {
    const bytes = entries[i]![1];
    settled.push(isWanted ? await bijou.intakes.receive(id, streamOf(bytes), bytes.length) : null);
  }
  await bijou.jobs.idle();
  return settled;
}

/** Names of a project's sounds by their groups. */
export function placed(bijou: Bijou, project: number): string[] {
  return bijou.sounds
    .ofProject(project)
    .filter(({ state }) => state === 'ready')
    .map(({ group, name }) => [group, name].filter(Boolean).join('/'))
    .sort();
}
