import type { StageChoices } from './choices';

/** What the stage begins with. */
export interface FilterScene {
  choices: StageChoices;
}
