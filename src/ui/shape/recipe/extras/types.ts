import type { ReactNode } from 'react';
import type { WalkedStep } from '@/core/recipe/recipe';
import type { Step } from '@/core/recipe/types';
import type { Sound } from '@/wire';
import type { RecipeOf } from '../recipeOf';

/** A step of a sound's recipe, as what is said of it needs it. */
export interface ExtraProps {
  of: RecipeOf;
  sound: Sound;
  walked: WalkedStep;
  /** Place of the step, from 0. */
  at: number;
  onChange: (step: Step) => void;
}

/** What is to be known of one kind of step before one is content with it. */
export type Extra = (props: ExtraProps) => ReactNode;
