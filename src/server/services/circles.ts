import { BijouError } from '@/core/errors';
import type { Context } from '../context';

/**
 * Refuses a joined sound that is a part of itself, through however many other joins.
 * @throws not-allowed that names the sound that leads back
 */
export function refuseCircle(
  db: Pick<Context['db'], 'sounds'>,
  soundId: number,
  parts = partsOf(db, soundId),
): void {
  // Every sound is looked at once, however many joins it is a part of.
  const seen = new Set<number>();
  for (const first of parts) {
    const waiting = [first];
    for (let next = waiting.pop(); next !== undefined; next = waiting.pop()) {
      if (next === soundId) throw circle(db.sounds.byId(first)?.name ?? 'A part');
      if (seen.has(next)) continue;
      seen.add(next);
      waiting.push(...partsOf(db, next));
    }
  }
}

function partsOf(db: Pick<Context['db'], 'sounds'>, soundId: number): number[] {
  return (db.sounds.byId(soundId)?.join?.parts ?? []).map((part) => part.soundId);
}

function circle(name: string): BijouError {
  return new BijouError(
    'not-allowed',
    `“${name}” contains this sound itself: a join cannot be a part of itself.`,
    'Take it out of the list, or undo what was done to the other sound first.',
  );
}
