import { clippingStep, type ClippingChoice } from '../brief/choices';
import { askedLevel } from '../brief/levels';
import type { EncodingPlan } from '../encoding';
import { legalityRefusal } from '../formats/legality';
import { filledSettings, lostMarks, writerById } from '../formats/write';
import { marksAfter, peakAtMost, shapeAfter } from '../recipe/recipe';
import type { Outcome } from '../recipe/outcome';
import { emptyRecipe, shapeOf, type Recipe, type Shape, type Step } from '../recipe/types';
import type { ListedFacts } from '../measure/probe';
import type { NormaliseParams } from '../recipe/steps/normalise';
import type { Change } from './change';
import { fit, type Wish } from './fit';

/** What may be asked of the channels: mixed to one, one side kept, or two of them. */
export type WishedChannels = 'mix' | 'left' | 'right' | 'stereo';

/** What is asked of a one-off conversion of sounds of a project. */
export interface OneOffWish extends Wish {
  rateHz?: number | undefined;
  channels?: WishedChannels | undefined;
  /** Leaves the sounds' own steps out. */
  isBare?: boolean | undefined;
  /** What becomes of what lies above full scale. */
  clipping?: ClippingChoice | undefined;
  /** One gain for all sounds, so that the loudest of them has this level. */
  together?: Pick<NormaliseParams, 'to' | 'target'> | undefined;
}

/** A sound as far as a conversion has to know it. */
interface ConvertedSound {
  sourceSha256: string;
  facts: ListedFacts;
  recipe: Recipe;
  outcome?: Outcome | null;
}

/** How one sound becomes one file. */
export interface OneOff {
  plan: EncodingPlan;
  /** Behind all steps. */
  shape: Shape;
  changes: Change[];
  /** What the format has no place for, in a sentence. */
  lost: string | null;
  /** How far the loudest sample lies above full scale where it would be cut off; null where it does not. */
  overDb: number | null;
}

/** Where less than this is cut off, nobody can hear or see it. */
const LEAST_OVER_DB = 0.01;

/**
 * Plans the conversion of a sound.
 * @param gainDb What the sounds of one wish are changed by together.
 * @throws not-legal for what was asked for and cannot be, and what the first impossible step says
 */
export function oneOffOf(sound: ConvertedSound, wish: OneOffWish, gainDb = 0): OneOff {
  const { facts, sourceSha256 } = sound;
  const kind = writerById(wish.writer);
  const own = wish.isBare ? emptyRecipe : sound.recipe;
  const before = shapeOf(facts);
  const steps: Step[] = [...own.steps];
  const now = () => shapeAfter({ version: 1, steps }, before);
  const ownLength = steps.length;
  const channels = wish.channels && channelStep(wish.channels, now().channelCount);
  if (channels) steps.push(channels);
  const { rateHz } = wish;
  if (rateHz !== undefined) {
    const refusal = legalityRefusal(kind, rateHz, kind.legal.channels[0]!);
    if (refusal) throw refusal;
    if (now().rateHz !== rateHz) steps.push({ kind: 'resample', on: true, params: { rateHz } });
  }
  const { codec, bitDepth } = facts;
  const fitted = fit(now(), { codec, bitDepth }, wish);
  steps.push(...fitted.steps);
  // A level that was asked for is the last word.
  if (steps.length > ownLength) steps.push(...(askedLevel(own)?.steps ?? []));
  if (gainDb !== 0) steps.push({ kind: 'gain', on: true, params: { gainDb } });
  const overDb = (outcomePeak(sound, wish) ?? -Infinity) + gainDb;
  const isHeld = kind.holdsBeyond?.(filledSettings(kind, fitted.settings)) ?? false;
  const isOver = overDb > LEAST_OVER_DB && overDb < Infinity && !isHeld;
  const cure = isOver && wish.clipping ? clippingStep(wish.clipping) : null;
  if (cure) steps.push(cure);
  const recipe: Recipe = { version: 1, steps };
  const shape = now();
  const { tags, loop, markers } = facts;
  const marks = marksAfter(recipe, before, { tags, loop, markers });
  return {
    plan: { sourceSha256, recipe, writer: wish.writer, settings: fitted.settings, isCopy: false },
    shape,
    changes: fitted.changes,
    lost: lostMarks(kind, marks, shape)?.message ?? null,
    overDb: isOver && !wish.clipping ? overDb : null,
  };
}

function channelStep(wanted: WishedChannels, channelCount: number): Step | null {
  const isThere = wanted === 'stereo' ? channelCount === 2 : channelCount === 1;
  return isThere ? null : { kind: 'channels', on: true, params: { mode: wanted } };
}

/** The peak behind the sound's own steps, as far as it is known. */
function outcomePeak({ outcome, facts, recipe }: ConvertedSound, { isBare }: OneOffWish) {
  if (isBare) return facts.peakDbfs;
  return outcome?.peakDbfs ?? peakAtMost(recipe, facts.peakDbfs);
}
