import { QueryClient, useQuery } from '@tanstack/react-query';
import { create } from 'zustand';
import type { Recipe } from '@/core/recipe/types';
import type { SavedRecipe } from '@/wire';
import { call } from '../../shared/api';

const shelf = new QueryClient({ defaultOptions: { queries: { networkMode: 'always' } } });
const queryKey = ['recipes'];

/** Recipes under a name, for every project. */
export function useSavedRecipes(): readonly SavedRecipe[] {
  return useQuery({ queryKey, queryFn: () => call<SavedRecipe[]>('recipes') }, shelf).data ?? [];
}

export async function saveRecipe(name: string, recipe: Recipe, rateHz: number): Promise<void> {
  shelf.setQueryData(
    queryKey,
    await call<SavedRecipe[]>('recipes', 'POST', { name, recipe, rateHz }),
  );
}

export async function forgetRecipe(id: number): Promise<void> {
  shelf.setQueryData(queryKey, await call<SavedRecipe[]>(`recipes/${id}`, 'DELETE'));
}

/** The recipe that was copied last; its frames are of the rate. */
export const useCopied = create<{ copied: { recipe: Recipe; rateHz: number } | null }>(() => ({
  copied: null,
}));
