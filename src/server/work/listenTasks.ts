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
  /** What it is heard behind; null for the sound itself. */
  recipe: Recipe | null;
}

/** What the listening thread can be asked. Spans are in frames of the sound behind its recipe. */
export type ListenTask = { sound: ListenedSound } & (
  | { kind: 'samples'; startFrame: number; frames: number }
  | { kind: 'columns'; startFrame: number; endFrame: number; count: number }
  | { kind: 'levels'; isThorough: boolean }
  | { kind: 'spectrogram'; startFrame: number; endFrame: number; columns: number; rows: number }
  | { kind: 'sounding'; thresholdDb: number; leastSilenceSeconds: number }
  | { kind: 'crossing'; frame: number; direction: -1 | 0 | 1 }
  /** What its last step, a declick, has found. */
  | { kind: 'clicks' }
);
