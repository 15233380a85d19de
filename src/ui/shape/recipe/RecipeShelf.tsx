import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { recipeForMany } from '@/core/recipe/retime';
import type { Recipe, Shape } from '@/core/recipe/types';
import { plural } from '../../shared/format';
import { Popover } from '../../shared/Popover';
import { Tool } from '../../shared/Tool';
import { explain } from '../useMark';
import { forgetRecipe, saveRecipe, useCopied, useSavedRecipes } from './savedRecipes';

/** Copying a recipe, saving it under a name, and using one that was saved. */
export function RecipeShelf({
  recipe,
  source,
  onUse,
}: {
  recipe: Recipe;
  source: Shape;
  onUse: (recipe: Recipe, name?: string) => void;
}) {
  const { copied } = useCopied();
  const { rateHz } = source;
  const isEmpty = recipe.steps.length === 0;
  const behind = (other: Recipe, otherHz: number) =>
    recipeForMany(other, { rateHz: otherHz, mode: 'behind' }, recipe, rateHz);
  return (
    <div className="flex flex-wrap gap-1">
      <button
        className="btn btn-ghost btn-xs"
        disabled={isEmpty}
        aria-label="Copy the steps"
        title="Copy all steps, to put them behind those of another sound (Shift+C)"
        onClick={() => {
          useCopied.setState({ copied: { recipe, rateHz } });
          toast(`${plural(recipe.steps.length, 'step')} copied.`);
        }}
      >
        Copy
      </button>
      <button
        className="btn btn-ghost btn-xs"
        disabled={!copied}
        aria-label="Paste steps"
        title="Put the steps that were copied behind these (Shift+V)"
        onClick={() => copied && onUse(behind(copied.recipe, copied.rateHz))}
      >
        Paste
      </button>
      <Popover
        label="Save the recipe"
        title="Save the recipe under a name (Shift+K)"
        face="Save as…"
        className="btn btn-ghost btn-xs"
        disabled={isEmpty}
      >
        {(close) => <SaveForm recipe={recipe} rateHz={rateHz} onDone={close} />}
      </Popover>
      <Popover
        label="Saved recipes"
        title="Use a saved recipe (K)"
        face="Saved…"
        className="btn btn-ghost btn-xs"
      >
        {(close) => (
          <Saved
            onUse={(saved) => {
              close();
              onUse(behind(saved.recipe, saved.rateHz), saved.name);
            }}
          />
        )}
      </Popover>
    </div>
  );
}

function SaveForm({
  recipe,
  rateHz,
  onDone,
}: {
  recipe: Recipe;
  rateHz: number;
  onDone: () => void;
}) {
  const names = useSavedRecipes().map(({ name }) => name.toLowerCase());
  const [name, setName] = useState('');
  const isThere = names.includes(name.trim().toLowerCase());
  return (
    <form
      className="w-64 space-y-2"
      onSubmit={(event) => {
        event.preventDefault();
        saveRecipe(name.trim(), recipe, rateHz)
          .then(() => {
            toast(`Saved as “${name.trim()}”. It can be used on any sound.`);
            onDone();
          })
          .catch(explain);
      }}
    >
      <input
        autoFocus
        className="input input-sm w-full"
        placeholder="Stems for phones"
        aria-label="Name of the recipe"
        maxLength={80}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      {isThere && <p className="text-warning text-xs">It takes the place of the one there.</p>}
      <button className="btn btn-primary btn-sm" disabled={name.trim() === ''}>
        Save {plural(recipe.steps.length, 'step')}
      </button>
    </form>
  );
}

function Saved({ onUse }: { onUse: (saved: ReturnType<typeof useSavedRecipes>[number]) => void }) {
  const saved = useSavedRecipes();
  if (saved.length === 0) {
    return (
      <p className="text-soft w-64">
        No recipe is saved yet. Save one under a name, and it can be used on any sound of any
        project; times stay, whatever the sample rate.
      </p>
    );
  }
  return (
    <ul className="w-72">
      {saved.map((one) => (
        <li key={one.id} className="flex items-center">
          <button
            className="hover:bg-base-200 min-w-0 flex-1 rounded px-1.5 py-1 text-left"
            title="Put these steps behind the others"
            onClick={() => onUse(one)}
          >
            <span className="font-semibold">{one.name}</span>{' '}
            <span className="text-soft text-xs">{plural(one.recipe.steps.length, 'step')}</span>
          </button>
          <Tool
            label={`Forget the recipe ${one.name}`}
            onClick={() => void forgetRecipe(one.id).catch(explain)}
          >
            <Trash2 size={13} />
          </Tool>
        </li>
      ))}
    </ul>
  );
}
