import { sourceFromChannels, type PcmSource } from '@/core/pcm/source';
import { applyRecipe } from '@/core/recipe/recipe';
import { stepKinds } from '@/core/recipe/steps';
import type { Recipe } from '@/core/recipe/types';
import { tonesAndNoise } from './signal';
import type { Table } from './types';

const RATE = 48_000;
const SECONDS = 300;
/** What the player asks for first. */
const FIRST_FRAMES = Math.round(0.4 * RATE);

async function timed(work: () => Promise<unknown>): Promise<number> {
  const began = performance.now();
  await work();
  return performance.now() - began;
}

async function read(source: PcmSource, from: number, frames: number): Promise<void> {
  let left = Math.min(frames, source.frames - from);
  for await (const block of source.from(from)) {
    left -= block[0]!.length;
    if (left <= 0) return;
  }
}

/** Every kind of step on five minutes of stereo: what it measures first, and how soon the middle is heard. */
export async function shapingTable(): Promise<Table> {
  const sound = sourceFromChannels(tonesAndNoise(RATE, SECONDS, 2), RATE);
  const rows: (string | number)[][] = [];
  for (const { kind, name, defaults } of stepKinds) {
    const params = defaults({ ...sound }) as Record<string, unknown>;
    const recipe: Recipe = { version: 1, steps: [{ kind, on: true, params }] };
    let shaped = sound;
    const measuring = await timed(async () => (shaped = await applyRecipe(recipe, sound)));
    const middle = Math.floor(shaped.frames / 2);
    await read(shaped, middle, FIRST_FRAMES);
    const first = await timed(() => read(shaped, middle, FIRST_FRAMES));
    const whole = await timed(() => read(shaped, 0, shaped.frames));
    rows.push([
      name,
      measuring < 1 ? '–' : `${Math.round(measuring)} ms`,
      `${first.toFixed(1)} ms`,
      `${Math.round(whole)} ms`,
    ]);
  }
  return {
    title: 'Shaping: every step on five minutes of stereo at 48 kHz',
    note:
      'What a step measures of the whole sound is measured once. Then the first 0.4 s from the middle of the ' +
      'sound, which the player asks for first, and all of it. In memory, without the way to the browser.',
    columns: ['step', 'measured once', 'first 0.4 s from the middle', 'all of it'],
    rows,
  };
}
