import type { ErrorFacts } from '@/core/errors';
import { hasToBeRead, plainOutcome, type Outcome } from '@/core/recipe/outcome';
import { recipeKey } from '@/core/recipe/recipe';
import type { Sound } from '@/wire';
import type { Context } from '../context';

/** Finding out what comes of recipes, in the background, so that what would clip is known before it is built. */
export function outcomeService({ db, pump }: Context) {
  /** Has every sound looked at of which it is not known. Call after every change. */
  function follow(projectId: number): void {
    const unknown = db.sounds.ofUnknownOutcome(projectId);
    if (unknown.length === 0) return;
    db.transaction(() => {
      for (const { id, recipe, facts, recipeProblem } of unknown) {
        const isPlain = !facts || recipeProblem || !hasToBeRead(recipe, facts.peakDbfs);
        if (isPlain) db.sounds.setOutcome(id, plainOutcome);
        else if (!db.jobs.isOpen('outcome', id)) db.jobs.add(projectId, 'outcome', id);
      }
    });
    pump();
  }

  /** What is to be read; null for a sound that needs it no more. `key` tells which recipe on which source. */
  function wanted(id: number) {
    const sound = db.sounds.byId(id);
    const sourceShape = sound && db.sources.shapeOf(sound.sourceSha256);
    if (!sound || !sourceShape || sound.removedAt !== null) return null;
    return { sound, sourceShape, key: keyOf(sound) };
  }

  /** Writes down what was found, unless the sound is another meanwhile. */
  function finish(id: number, key: string, outcome: Outcome): void {
    const sound = db.sounds.byId(id);
    if (sound && keyOf(sound) === key) db.sounds.setOutcome(id, outcome);
  }

  /** Writes down why a step cannot be done that measures first. */
  function fail(id: number, error: ErrorFacts): void {
    if (db.sounds.byId(id)) db.sounds.setOutcome(id, { ...plainOutcome, error });
  }

  return { follow, wanted, finish, fail };
}

export type OutcomeService = ReturnType<typeof outcomeService>;

function keyOf({ sourceSha256, recipe }: Sound): string {
  return `${sourceSha256} ${recipeKey(recipe)}`;
}
