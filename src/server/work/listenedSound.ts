import type { RawDescription } from '@/core/formats/raw/reader';
import type { Loop } from '@/core/marks';
import type { Recipe } from '@/core/recipe/types';

/** A stored sound as the listening thread finds it: plain WAV or short, with its pyramid. */
export interface ListenedSound {
  sha256: string;
  path: string;
  /** What its samples are, where its file does not say so. */
  raw: RawDescription | null;
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
