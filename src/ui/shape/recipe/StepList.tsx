'use client';

import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import type { WalkedStep } from '@/core/recipe/recipe';
import type { Recipe, Shape, Step } from '@/core/recipe/types';
import type { Sound } from '@/wire';
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
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const ids = recipe.steps.map((_, i) => i + 1);
  const put = (steps: Step[]) => save({ ...recipe, steps });
  const drop = ({ active, over }: DragEndEvent) => {
    if (over && over.id !== active.id) {
      put(arrayMove(recipe.steps, Number(active.id) - 1, Number(over.id) - 1));
    }
  };
  if (recipe.steps.length === 0) {
    return (
      <p className="text-soft mt-2">
        Nothing is done to the sound yet. Mark a part and choose what becomes of it, or add a step.
        The original is never touched.
      </p>
    );
  }
  return (
    <DndContext id="recipe" sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
      <SortableContext items={ids} strategy={verticalListSortingStrategy}>
        <ol aria-label="Steps" className="border-base-300 mt-2 border-t">
          {walked.map((step, i) => (
            <StepCard
              key={i}
              id={i + 1}
              of={of}
              walked={step}
              isLast={i === walked.length - 1}
              onChange={(next) => put(recipe.steps.map((old, at) => (at === i ? next : old)))}
              onRemove={() => put(recipe.steps.filter((_, at) => at !== i))}
              onMove={(by) => put(arrayMove(recipe.steps, i, i + by))}
            />
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  );
}
