import { plainNumber, signedDb } from '../tradeNames';
import { kindOf } from './recipe';
import { usualLimit } from './steps/limit';
import { USUAL_CEILING_DBTP } from './steps/normalise';
import type { Recipe, Step } from './types';

/** A way to bring what lies above full scale below it. */
export interface PeakCure {
  /** As a button says it. */
  name: string;
  steps(recipe: Recipe): Step[];
}

const ceiling = `${plainNumber(USUAL_CEILING_DBTP)} dBTP`;

/** A ceiling for the last normalising, where it is that which raised the level and has none. */
function withCeiling({ steps }: Recipe): Step[] | null {
  const at = steps.findLastIndex(({ on, kind }) => on && kind === 'normalise');
  const last = steps.findLastIndex(
    ({ on, kind }) => on && kindOf({ kind, on, params: {} })?.purpose === 'level',
  );
  const step = steps[at];
  if (!step || at !== last || step.params['ceilingDbtp'] !== undefined) return null;
  const params = { ...step.params, ceilingDbtp: USUAL_CEILING_DBTP };
  return steps.map((old, i) => (i === at ? { ...old, params } : old));
}

type Behind = (step: Omit<Step, 'on'>) => PeakCure['steps'];

function gainCure(truePeakDbtp: number, behind: Behind): PeakCure {
  // Rounded down, so that it is surely enough.
  const gainDb = Math.floor((USUAL_CEILING_DBTP - truePeakDbtp) * 10) / 10;
  return {
    name: `Change all of it by ${signedDb(gainDb)}`,
    steps: behind({ kind: 'gain', params: { gainDb } }),
  };
}

/** What can be done about a recipe behind which a sound lies above full scale; its true peak in dBTP. */
export function peakCures(recipe: Recipe, truePeakDbtp: number | null): PeakCure[] {
  const behind: Behind = (step) => (of) => [...of.steps, { ...step, on: true }];
  const cures: PeakCure[] = [];
  if (withCeiling(recipe)) {
    cures.push({
      name: `Give the normalising a ceiling of ${ceiling}`,
      steps: (of) => withCeiling(of) ?? of.steps,
    });
  }
  cures.push({
    name: `Limit the loud moments to ${ceiling}`,
    steps: behind({ kind: 'limit', params: { ...usualLimit } }),
  });
  // Of many sounds each has a gain of its own.
  cures.push(
    truePeakDbtp === null
      ? {
          name: `Turn each down to ${ceiling}`,
          steps: behind({ kind: 'limit', params: { ...usualLimit, how: 'all' } }),
        }
      : gainCure(truePeakDbtp, behind),
  );
  return cures;
}
