import { normaliseMeasures, type NormaliseParams } from '../recipe/steps/normalise';
import { active } from '../recipe/recipe';
import type { Recipe, Step } from '../recipe/types';
import { plainNumber } from '../tradeNames';
import type { Verification } from '../convert';
import type { Choices } from './choices';
import type { Finding } from './types';

/** A level that a recipe asks for, with the steps that bring it about. */
export interface AskedLevel {
  params: NormaliseParams;
  steps: Step[];
}

/** The level that a recipe's last word about it is; null where it asks for none. */
export function askedLevel(recipe: Recipe): AskedLevel | null {
  const steps = active(recipe);
  const at = steps.findLastIndex(({ kind }) => kind === 'normalise');
  const behind = steps.slice(at + 1);
  if (at < 0 || behind.some(({ kind }) => kind === 'gain')) return null;
  return {
    params: steps[at]!.params as unknown as NormaliseParams,
    steps: [steps[at]!, ...behind.filter(({ kind }) => kind === 'limit')],
  };
}

/** What of a conversion gives a sound another level than it had; null where nothing does. */
function changer(added: readonly Step[], { to }: NormaliseParams, isAlike: boolean): string | null {
  const mixes = added.some(
    ({ kind, params }) => kind === 'channels' && params['mode'] !== 'stereo',
  );
  if (mixes && !isAlike) return 'mixing its channels';
  return to === 'peak' && added.some(({ kind }) => kind === 'resample') ? 'resampling' : null;
}

/** Says that a conversion changes a level that was asked for. `isAlike`: all channels are the same. */
export function levelFinding(
  fileId: string,
  asked: AskedLevel | null,
  added: readonly Step[],
  isAlike: boolean,
  choices: Choices,
): Finding | null {
  const by = asked && changer(added, asked.params, isAlike);
  if (!by) return null;
  const wanted = levelText(asked.params);
  return {
    fileId,
    requirement: 'level',
    verdict: 'convert',
    found: wanted,
    wanted,
    sentence: choices.levelBehind
      ? `Normalised to ${wanted} once more behind ${by}, as chosen.`
      : `Normalised to ${wanted} before ${by}: the file will have another level.`,
  };
}

/** From here on another level is worth a word. */
const LEAST_DIFFERENCE_DB = 0.15;

/** What the finished file has in place of the level that was asked for; null where it has that. */
export function levelRemark(
  { to, target }: NormaliseParams,
  { facts }: Pick<Verification, 'facts'>,
): string | null {
  const { unit, fact } = normaliseMeasures[to];
  const found = facts[fact];
  if (found === null || Math.abs(found - target) < LEAST_DIFFERENCE_DB) return null;
  return (
    `Its level is ${plainNumber(found)} ${unit}, not ${plainNumber(target)}: ` +
    'the conversion changed it after it was normalised.'
  );
}

function levelText({ to, target }: NormaliseParams): string {
  return `${plainNumber(target)} ${normaliseMeasures[to].unit}`;
}
