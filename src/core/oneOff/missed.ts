import { askedLevel } from '../brief/levels';
import { filledSettings, writerById } from '../formats/write';
import type { ListedFacts } from '../measure/probe';
import { active } from '../recipe/recipe';
import type { LimitParams } from '../recipe/steps/limit';
import { normaliseMeasures, type NormaliseParams } from '../recipe/steps/normalise';
import type { Recipe } from '../recipe/types';
import { plainNumber, signedDb } from '../tradeNames';
import type { Warning } from '../formats/types';

/** What a file was to hold, and what it holds: both are needed to say what was missed. */
interface Finished {
  recipe: Recipe;
  writer: string;
  settings: object;
  /** As it was to be written. */
  loudestDbfs?: number | null | undefined;
  /** What was said of it before. */
  warnings: readonly Warning[];
  /** What is handed on as it is was made by somebody else. */
  isCopy?: boolean;
  /** As it was decoded again. */
  facts: Pick<ListedFacts, 'peakDbfs' | 'truePeakDbtp' | 'lufs' | 'bitDepth'>;
}

/** From here on another level is another one. */
const LEAST_DB = 0.1;
/** Rounding alone is no clipping. */
const LEAST_OVER_DB = 0.01;

/** How what helps is called where it is read. */
export interface CureNames {
  limit(dbtp: number): string;
  gain(db: number): string;
}

/** As steps of a recipe. */
export const cureSteps: CureNames = {
  limit: (dbtp) => `Limiting it to ${plainNumber(dbtp)} dBTP`,
  gain: (db) => `A gain of ${signedDb(db)}`,
};

/** As options of the command line. */
export const cureOptions: CureNames = {
  limit: (dbtp) => `--limit ${dbtp}`,
  gain: (db) => `--gain ${db}`,
};

/** What of the levels that were asked for a finished file does not have, by how much, and what helps. */
export function missedLevels(finished: Finished, cures: CureNames): Warning[] {
  if (finished.isCopy) return [];
  const peak = ceilingMissed(finished, cures) ?? scaleMissed(finished, cures);
  return [peak, levelMissed(finished)].flatMap((warning) => warning ?? []);
}

/** The lowest true peak that its last steps hold it to, in dBTP; null where none does. */
function askedCeiling(recipe: Recipe): number | null {
  const steps = active(recipe);
  const last = steps.findLastIndex(({ kind }) => kind === 'limit' || kind === 'normalise');
  if (last < 0 || steps.slice(last + 1).some(({ kind }) => !KEEPS_PEAKS.has(kind))) return null;
  const { kind, params } = steps[last]!;
  if (kind === 'limit') return (params as unknown as LimitParams).ceilingDbtp;
  const { to, target, ceilingDbtp } = params as unknown as NormaliseParams;
  return to === 'true-peak' ? Math.min(target, ceilingDbtp ?? Infinity) : (ceilingDbtp ?? null);
}

/** Steps that were not asked for behind a ceiling may follow it: what a format needs. */
const KEEPS_PEAKS = new Set(['resample', 'channels']);

function ceilingMissed({ recipe, facts }: Finished, cures: CureNames): Warning | null {
  const asked = askedCeiling(recipe);
  const found = facts.truePeakDbtp ?? -Infinity;
  if (asked === null || found <= asked + LEAST_DB) return null;
  const cure = roundedDown(asked, found - asked);
  return {
    code: 'overshoot',
    message:
      `Decoded, its true peak is ${plainNumber(found)} dBTP, ${plainNumber(found - asked)} dB above the ` +
      `${plainNumber(asked)} that were asked for: encoding lifts it. ${cures.limit(cure)} makes up for it.`,
  };
}

function scaleMissed(
  { recipe, writer, settings, loudestDbfs, facts }: Finished,
  cures: CureNames,
): Warning | null {
  const kind = writerById(writer);
  const isHeld = kind.holdsBeyond?.(filledSettings(kind, settings)) ?? false;
  const over = facts.peakDbfs ?? -Infinity;
  const wasOver = (loudestDbfs ?? -Infinity) > LEAST_OVER_DB;
  if (isHeld || wasOver || over <= LEAST_OVER_DB) return null;
  // Together with a gain that was given.
  const last = active(recipe).at(-1);
  const given = last?.kind === 'gain' ? Number(last.params['gainDb']) : 0;
  const cure = roundedDown(given, over);
  return {
    code: 'overshoot',
    message:
      `Decoded, it lies ${plainNumber(over, over < 0.1 ? 2 : 1)} dB above full scale, which players cut off: ` +
      `encoding lifts it. ${cures.gain(cure)} makes up for it.`,
  };
}

function levelMissed({ recipe, warnings, facts }: Finished): Warning | null {
  const asked = askedLevel(recipe);
  if (!asked) return null;
  const { to, target } = asked.params;
  const { name, unit, fact } = normaliseMeasures[to];
  const found = facts[fact];
  const isSaid = warnings.some(
    ({ code }) => code === 'otherwise' || (code === 'held-back' && asked.steps.length === 1),
  );
  if (found === null || isSaid || Math.abs(found - target) <= LEAST_DB) return null;
  const by = plainNumber(Math.abs(found - target));
  const isLimited = asked.steps.length > 1 && found < target;
  const why = isLimited ? ': the limiter took it away' : '';
  return {
    code: 'level-missed',
    message:
      `Its ${name} is ${plainNumber(found)} ${unit}, ${by} ${to === 'lufs' ? 'LU' : 'dB'} ` +
      `${found < target ? 'below' : 'above'} the ${plainNumber(target)} that were asked for${why}.`,
  };
}

/** What is held lower is denser, and lifted by more: so much more of it, and a little besides. */
const SPARE_DB = 0.2;
const SPARE_SHARE = 0.3;

/** So much lower, to a tenth of a decibel, that it is enough. */
function roundedDown(db: number, over: number): number {
  return Math.floor((db - over * (1 + SPARE_SHARE) - SPARE_DB) * 10) / 10;
}
