import type { Recipe } from '@/core/recipe/types';
import type { SavedRecipe } from '@/wire';
import type { Db } from './open';

type Stored = Omit<SavedRecipe, 'recipe'> & { recipe: string };

/** Recipes that were saved under a name. */
export function recipeStatements(db: Db) {
  const save = db.prepare<[string, string, number, string]>(
    `INSERT INTO recipes (name, recipe, rateHz, savedAt) VALUES (?, ?, ?, ?)
     ON CONFLICT (name) DO UPDATE SET recipe = excluded.recipe, rateHz = excluded.rateHz,
       savedAt = excluded.savedAt`,
  );
  const all = db.prepare<[], Stored>('SELECT * FROM recipes ORDER BY name COLLATE NOCASE');
  const forget = db.prepare<[number]>('DELETE FROM recipes WHERE id = ?');
  return {
    /** Under a name that is there already, the new recipe takes the old one's place. */
    save: (name: string, recipe: Recipe, rateHz: number) =>
      void save.run(name, JSON.stringify(recipe), rateHz, new Date().toISOString()),
    all: (): SavedRecipe[] =>
      all.all().map((row) => ({ ...row, recipe: JSON.parse(row.recipe) as Recipe })),
    forget: (id: number) => forget.run(id).changes > 0,
  };
}
