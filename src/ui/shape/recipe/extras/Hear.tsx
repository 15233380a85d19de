import { Headphones } from 'lucide-react';
import type { Recipe } from '@/core/recipe/types';
import { hearSteps } from '../../hearing';
import { firstSteps } from '../StepEffect';
import type { ExtraProps } from './types';

/** Plays the sound in front of a step or behind it, all of it or around a place. */
export function Hear({
  of,
  at,
  sound,
  when,
  place,
}: Pick<ExtraProps, 'of' | 'at' | 'sound'> & { when: 'before' | 'after'; place?: number }) {
  const steps = when === 'before' ? at : at + 1;
  return (
    <button
      className="btn btn-paper btn-xs"
      title={`Hear the sound ${when} this step`}
      onClick={() =>
        hearSteps(sound, upTo(of.recipe, steps), steps, `${when} step ${at + 1}`, place)
      }
    >
      <Headphones size={12} aria-hidden /> {when === 'before' ? 'Before' : 'After'}
    </button>
  );
}

/** The first steps, the last of them switched on: what it would do, whether it does it or not. */
export function upTo(recipe: Recipe, count: number): Recipe {
  const steps = firstSteps(recipe, count).steps;
  return {
    ...recipe,
    steps: steps.map((step, i) => (i === count - 1 ? { ...step, on: true } : step)),
  };
}
