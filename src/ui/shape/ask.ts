import { QueryClient, useQuery } from '@tanstack/react-query';
import { recipeKey } from '@/core/recipe/recipe';
import { emptyRecipe, type Recipe } from '@/core/recipe/types';
import type { Sound } from '@/wire';
import type { Stretch } from '@/core/marks';
import { ApiError, call } from '../shared/api';

/** A sound behind a recipe; the source itself behind an empty one. */
export interface Asked {
  sound: Pick<Sound, 'id' | 'sourceSha256'>;
  recipe: Recipe;
}

export const sourceOf = (sound: Sound): Asked => ({ sound, recipe: emptyRecipe });

/** Asks the server about a sound behind a recipe, until nobody wants to know it any more. */
function ask<T>(
  { sound, recipe }: Asked,
  question: string,
  told: object,
  signal?: AbortSignal,
): Promise<T> {
  const path = `sounds/${sound.id}/shaped/${question}`;
  const asked = () => call<T>(path, 'POST', { ...told, recipe }, signal);
  return isOfOneStep(question, told) ? inTurn(asked) : asked();
}

/** Quick figures are those in front of single steps and behind them. */
function isOfOneStep(question: string, told: object): boolean {
  return question === 'levels' && 'isThorough' in told && !told.isThorough;
}

// Each reads the whole sound: one after the other they leave room for what is more urgent.
let lastFigure: Promise<unknown> = Promise.resolve();

function inTurn<T>(work: () => Promise<T>): Promise<T> {
  const mine = lastFigure.then(work);
  lastFigure = mine.catch(() => undefined);
  return mine;
}

// What was found out about the same samples stays true.
const answers = new QueryClient({
  defaultOptions: {
    queries: { staleTime: Infinity, gcTime: 600_000, retry: false, networkMode: 'always' },
  },
});

/** The answer to a question, once it is there; kept for the same sound and recipe. */
export function useAnswer<T>(of: Asked, question: string, told: object, isWanted = true) {
  const key = [question, of.sound.sourceSha256, recipeKey(of.recipe), told];
  const { data, error, isFetching } = useQuery(
    {
      queryKey: key,
      queryFn: ({ signal }) => ask<T>(of, question, told, signal),
      enabled: isWanted,
    },
    answers,
  );
  return { data, problem: error instanceof ApiError ? error.facts : null, isFetching };
}

/** Fetches an answer for use at once. */
export function answerOf<T>(of: Asked, question: string, told: object): Promise<T> {
  const queryKey = [question, of.sound.sourceSha256, recipeKey(of.recipe), told];
  return answers.fetchQuery({
    queryKey,
    queryFn: ({ signal }) => ask<T>(of, question, told, signal),
  });
}

/** Quiet that is shorter belongs to what sounds around it. */
const LEAST_SILENCE_SECONDS = 0.1;
/** Below it a room is quiet. */
export const QUIET_DB = -60;

export function soundingQuestion(thresholdDb = QUIET_DB) {
  return { thresholdDb, leastSilenceSeconds: LEAST_SILENCE_SECONDS };
}

export type Sounding = Stretch[];
