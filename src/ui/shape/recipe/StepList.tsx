'use client';

import { arrayMove } from '@dnd-kit/sortable';
import type { Step } from '@/core/recipe/types';
import { useLineKeys } from '../../shared/lineKeys';
import { SortableList } from '../../shared/Sortable';
import type { RecipeOf } from './recipeOf';
import { StepCard } from './StepCard';

/** The steps in their order: to be dragged, switched off, set and taken out. */
export function StepList({ of }: { of: RecipeOf }) {
  const { recipe, walked, save } = of;
  const { steps } = recipe;
  const keys = useLineKeys(walked.map(({ step }) => step));
  const put = (next: Step[]) => save({ ...recipe, steps: next });
  if (steps.length === 0) {
    return (
      <p className="text-soft mt-2">
        {of.sound
          ? 'Nothing is done to the sound yet. Mark a part and choose what becomes of it, or add a step. '
          : 'No steps yet. Add those that are to be done to every chosen sound. '}
        The {of.sound ? 'original is' : 'originals are'} never touched.
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
