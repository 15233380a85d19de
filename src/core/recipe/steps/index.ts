import type { StepKind } from '../types';
import { channels } from './channels';
import { keep } from './keep';
import { resample } from './resample';

/** Every kind of step. */
export const stepKinds = [keep, channels, resample] as unknown as readonly StepKind[];
