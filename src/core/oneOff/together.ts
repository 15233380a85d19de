import { BijouError } from '../errors';
import type { WholeLevels } from '../measure/levels';
import type { ListedFacts } from '../measure/probe';
import { plainNumber, signedDb } from '../tradeNames';
import { normaliseMeasures, type NormaliseParams } from '../recipe/steps/normalise';

/**
 * One gain for several sounds, in dB, so that their balance stays: it brings the loudest of them to the target,
 * and none beyond the ceiling.
 * @throws not-legal where none of them has a level.
 */
export function gainTogether(
  levels: readonly WholeLevels[],
  { to, target, ceilingDbtp = Infinity }: NormaliseParams,
): number {
  const found = levels.flatMap((level) => level[normaliseMeasures[to].fact] ?? []);
  if (found.length === 0) {
    throw new BijouError(
      'not-legal',
      `None of these sounds has a ${normaliseMeasures[to].name} to go by.`,
      to === 'lufs' ? 'Use their true peak instead.' : 'They are silent.',
    );
  }
  const peaks = levels.flatMap(({ truePeakDbtp }) => truePeakDbtp ?? []);
  return Math.min(target - highest(found), ceilingDbtp - highest(peaks));
}

/** Says that the ceiling leaves the loudest of several sounds below the target; null where it does not. */
export function togetherMissed(
  levels: readonly WholeLevels[],
  params: NormaliseParams,
): string | null {
  const { ceilingDbtp, ...free } = params;
  if (ceilingDbtp === undefined) return null;
  const [given, wanted] = [gainTogether(levels, params), gainTogether(levels, free)];
  if (wanted - given < 0.05) return null;
  const { unit } = normaliseMeasures[params.to];
  return (
    `The ceiling of ${plainNumber(ceilingDbtp)} dBTP holds all of them back: changed by ${signedDb(given)} ` +
    `instead of ${signedDb(wanted)}, the loudest comes to ${plainNumber(params.target - wanted + given)} ` +
    `${unit} instead of ${plainNumber(params.target)}.`
  );
}

/** Smaller differences are those of encoding. */
const LEAST_TAKEN_DB = 0.1;

/** Says how much quieter one of several sounds came out than their gain makes it; null where it did not. */
export function limiterTook(
  before: WholeLevels,
  gainDb: number,
  { to }: NormaliseParams,
  made: Pick<ListedFacts, 'peakDbfs' | 'truePeakDbtp' | 'lufs'>,
): string | null {
  const { name, unit, fact } = normaliseMeasures[to];
  const [own, found] = [before[fact], made[fact]];
  if (own === null || found === null) return null;
  const taken = own + gainDb - found;
  if (taken <= LEAST_TAKEN_DB) return null;
  return (
    `Its ${name} is ${plainNumber(found)} ${unit}, ${plainNumber(taken)} ${to === 'lufs' ? 'LU' : 'dB'} below what ` +
    `the gain of ${signedDb(gainDb)} for all files makes of it: the limiter took it away.`
  );
}

function highest(values: readonly number[]): number {
  return values.reduce((most, value) => Math.max(most, value), -Infinity);
}
