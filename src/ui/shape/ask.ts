import { QueryClient, useQuery } from '@tanstack/react-query';
import { recipeKey } from '@/core/recipe/recipe';
import { emptyRecipe, type Recipe } from '@/core/recipe/types';
import type { Sound } from '@/wire';
import type { Stretch } from '@/core/measure/sounding';
import { ApiError, call } from '../shared/api';

/** A sound behind a recipe; the source itself behind an empty one. */
export interface Asked {
  sound: Pick<Sound, 'id' | 'sourceSha256'>;
  recipe: Recipe;
}

export const sourceOf = (sound: Sound): Asked => ({ sound, recipe: emptyRecipe });

/** Asks the server about a sound behind a recipe. */
function ask<T>({ sound, recipe }: Asked, question: string, told: object): Promise<T> {
  return call<T>(`sounds/${sound.id}/shaped/${question}`, 'POST', { ...told, recipe });
}

// What was found out about the same samples stays true.
const answers = new QueryClient({
  defaultOptions: { queries: { staleTime: Infinity, gcTime: 600_000, retry: false } },
});

/** The answer to a question, once it is there; kept for the same sound and recipe. */
export function useAnswer<T>(of: Asked, question: string, told: object, isWanted = true) {
  const key = [question, of.sound.sourceSha256, recipeKey(of.recipe), told];
  const { data, error, isFetching } = useQuery(
    { queryKey: key, queryFn: () => ask<T>(of, question, told), enabled: isWanted },
    answers,
  );
  return { data, problem: error instanceof ApiError ? error.facts : null, isFetching };
}

/** Fetches an answer for use at once. */
export function answerOf<T>(of: Asked, question: string, told: object): Promise<T> {
  const queryKey = [question, of.sound.sourceSha256, recipeKey(of.recipe), told];
  return answers.fetchQuery({ queryKey, queryFn: () => ask<T>(of, question, told) });
}

/** Quiet that is shorter belongs to what sounds around it. */
const LEAST_SILENCE_SECONDS = 0.1;
/** Below it a room is quiet. */
export const QUIET_DB = -60;

export function soundingQuestion(thresholdDb = QUIET_DB) {
  return { thresholdDb, leastSilenceSeconds: LEAST_SILENCE_SECONDS };
}

export type Sounding = Stretch[];
