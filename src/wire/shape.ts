import type { Levels } from '@/core/measure/level';
import type { Recipe, Shape } from '@/core/recipe/types';
import type { Changed, NamedChange } from './history';

/** What was measured on a sound behind a recipe. */
export interface ShapedLevels extends Shape, Pick<Levels, 'peakDbfs' | 'rmsDbfs' | 'correlation'> {
  /** Only after a thorough measuring. */
  truePeakDbtp: number | null;
  lufs: number | null;
}

/** A click that was found, in the sound in front of the declick. */
export interface ClickPlace {
  channel: number;
  startFrame: number;
  frames: number;
}

/** One change in the history of a sound. */
export interface HistoryEntry extends NamedChange {
  madeAt: string;
  undone: boolean;
}

/** A recipe that was saved under a name; its frames are of the rate. */
export interface SavedRecipe {
  id: number;
  name: string;
  recipe: Recipe;
  rateHz: number;
  savedAt: string;
}

/** What came of applying a recipe to many sounds. */
export interface Applied extends Changed {
  failed: { soundId: number; name: string; message: string }[];
}
