import type { Loop } from '@/core/marks';
import type { Recipe } from '@/core/recipe/types';

/** A stored sound as the listening thread finds it: plain WAV, with its pyramid. */
export interface ListenedSound {
  sha256: string;
  path: string;
  /** Where its pyramid lies. */
  peaks: string;
  /** As it was counted; null to believe the header. */
  frames: number | null;
  rateHz: number | null;
  /** As its file states it. */
  loop: Loop | null;
  /** What it is heard behind; null for the sound itself. */
  recipe: Recipe | null;
}
