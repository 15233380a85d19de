'use client';

import { arrayMove } from '@dnd-kit/sortable';
import type { WalkedStep } from '@/core/recipe/recipe';
import type { Recipe, Shape, Step } from '@/core/recipe/types';
import type { Sound } from '@/wire';
import { useLineKeys } from '../../shared/lineKeys';
import { SortableList } from '../../shared/Sortable';
import { StepCard } from './StepCard';

/** What the list needs to know of the sound whose recipe it shows; null where it is for many. */
export interface RecipeOf {
  sound: Sound | null;
  source: Shape;
  recipe: Recipe;
  walked: readonly WalkedStep[];
  save(recipe: Recipe): void;
}

/** The steps in their order: to be dragged, switched off, set and taken out. */
export function StepList({ of }: { of: RecipeOf }) {
  const { recipe, walked, save } = of;
  const { steps } = recipe;
  const keys = useLineKeys(walked.map(({ step }) => step));
  const put = (next: Step[]) => save({ ...recipe, steps: next });
  if (steps.length === 0) {
    return (
      <p className="text-soft mt-2">
        Nothing is done to the sound yet. Mark a part and choose what becomes of it, or add a step.
        The original is never touched.
      </p>
    );
  }
  return (
    <SortableList
      id="recipe"
      label="Steps"
      ids={keys}
      className="border-base-300 mt-2 border-t"
      onMove={(from, to) => put(arrayMove(steps, from, to))}
    >
      {walked.map((step, i) => (
        <StepCard
          key={keys[i]}
          id={keys[i]!}
          place={i + 1}
          of={of}
          walked={step}
          isLast={i === walked.length - 1}
          onChange={(next) => put(steps.map((old, at) => (at === i ? next : old)))}
          onRemove={() => put(steps.filter((_, at) => at !== i))}
          onMove={(by) => put(arrayMove(steps, i, i + by))}
        />
      ))}
    </SortableList>
  );
}
