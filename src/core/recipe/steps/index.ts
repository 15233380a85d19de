import type { StepKind } from '../types';
import { blank } from './blank';
import { channels } from './channels';
import { cut } from './cut';
import { declick } from './declick';
import { fadeIn, fadeOut } from './fades';
import { gain } from './gain';
import { keep } from './keep';
import { limit } from './limit';
import { loop } from './loop';
import { normalise } from './normalise';
import { offset } from './offset';
import { pad } from './pad';
import { polarity } from './polarity';
import { relabel } from './relabel';
import { repeat } from './repeat';
import { resample } from './resample';
import { reverse } from './reverse';
import { silence } from './silence';
import { speed } from './speed';
import { unroll } from './unroll';

/** Every kind of step. */
export const stepKinds = [
  keep,
  cut,
  blank,
  silence,
  pad,
  fadeIn,
  fadeOut,
  gain,
  normalise,
  limit,
  channels,
  polarity,
  offset,
  reverse,
  declick,
  relabel,
  speed,
  resample,
  loop,
  repeat,
  unroll,
] as unknown as readonly StepKind[];
