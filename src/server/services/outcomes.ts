import type { ErrorFacts } from '@/core/errors';
import { hasToBeRead, plainOutcome, type Outcome } from '@/core/recipe/outcome';
import { recipeKey } from '@/core/recipe/recipe';
import type { Sound } from '@/wire';
import type { Context } from '../context';
import { RANK } from '../jobs/ranks';

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
        else if (!db.jobs.isOpen('outcome', id)) {
          db.jobs.add(projectId, 'outcome', id, RANK.quiet);
        }
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

  /** Writes down what was found. */
  const finish = (id: number, outcome: Outcome) => db.sounds.setOutcome(id, outcome);

  /** Writes down why a step cannot be done that measures first. */
  const fail = (id: number, error: ErrorFacts) =>
    db.sounds.setOutcome(id, { ...plainOutcome, error });

  return { follow, wanted, finish, fail };
}

export type OutcomeService = ReturnType<typeof outcomeService>;

function keyOf({ sourceSha256, recipe }: Sound): string {
  return `${sourceSha256} ${recipeKey(recipe)}`;
}
