import type { ChannelMode } from '../recipe/steps/channels';
import { BijouError } from '../errors';
import { USUAL_CEILING_DBTP } from '../recipe/steps/normalise';
import type { Shape, Step } from '../recipe/types';
import { plainNumber } from '../tradeNames';
import { checkAhead } from './check';
import { clippings, clippingStep, type Choices, type MonoChoice } from './choices';
import type { Brief, BriefFile } from './schema';
import { channelTarget, rateTarget } from './target';
import type { CheckedFacts, Finding } from './types';

/**
 * The steps that a brief's file adds behind the sound's own recipe, without those for its level.
 * Channels come first: resampling one channel costs half as much. Levels come last.
 */
export function conversionSteps(
  shaped: Shape,
  file: BriefFile,
  choices: Choices,
  levels: readonly Step[] = [],
): Step[] {
  const { rateHz, channelCount } = shaped;
  const steps = shorterSteps(shaped, choices.seconds);
  const channels = channelTarget(file, channelCount);
  if (channels !== null && channels !== channelCount) {
    const mode: ChannelMode = channels === 2 ? 'stereo' : (choices.mono ?? 'mix');
    steps.push({ kind: 'channels', on: true, params: { mode } });
  }
  const target = rateTarget(file, rateHz, channelCount);
  if (target !== rateHz) {
    steps.push({ kind: 'resample', on: true, params: { rateHz: target } });
  }
  if (choices.levelBehind && steps.length > 0) steps.push(...levels);
  const cure = clippingStep(choices.clipping, choices.ceilingDbtp);
  return cure ? [...steps, cure] : steps;
}

/** A sound that was cut short ends in a fade, so that it does not end in a click. */
const FADE_SECONDS = 0.05;

/** What ends a sound after so many seconds. */
export function shorterSteps({ rateHz, frames }: Shape, seconds = Infinity): Step[] {
  const endFrame = Math.max(1, Math.floor(seconds * rateHz));
  if (endFrame >= frames) return [];
  const fade = Math.min(endFrame, Math.round(FADE_SECONDS * rateHz));
  return [
    { kind: 'keep', on: true, params: { startFrame: 0, endFrame } },
    { kind: 'fade-out', on: true, params: { frames: fade, shape: 'linear' } },
  ];
}

/** The steps that bring about what a brief demands of the level. `lufs` is that of the sound, where it is known. */
export function levelSteps({ level }: Brief, lufs: number | null | undefined): Step[] {
  if (!level) return [];
  const steps: Step[] = [];
  const isMet =
    lufs != null && level.lufs !== undefined && Math.abs(lufs - level.lufs) <= LEAST_CHANGE_LU;
  if (level.lufs !== undefined && !isMet) {
    const params = { to: 'lufs', target: level.lufs, otherwise: 'momentary' };
    steps.push({ kind: 'normalise', on: true, params });
  }
  // A loudness and a ceiling are met together by the loud moments alone.
  const how = level.by ?? (level.lufs === undefined ? 'all' : 'moments');
  const ceilingDbtp = level.peakDbtp ?? (steps.length > 0 ? USUAL_CEILING_DBTP : undefined);
  if (ceilingDbtp !== undefined) {
    steps.push({ kind: 'limit', on: true, params: { ceilingDbtp, how } });
  }
  return steps;
}

/** What lies so near is not touched. */
const LEAST_CHANGE_LU = 0.1;

const settled: Record<MonoChoice, string> = {
  mix: 'Both channels are mixed to one, as chosen.',
  left: 'Only the left channel is kept, as chosen.',
  right: 'Only the right channel is kept, as chosen.',
};

/** What a person decided about a finding, in words; undefined where nothing was. */
function decided({ requirement }: Finding, { channels }: CheckedFacts, choices: Choices) {
  if (requirement === 'full-scale') {
    const { clipping, ceilingDbtp = USUAL_CEILING_DBTP } = choices;
    return clipping && clippings[clipping](`${plainNumber(ceilingDbtp)} dBTP`);
  }
  if (requirement === 'loop' && choices.isWholeLoop) return 'All of it repeats, as chosen.';
  const isMixdown = requirement === 'channels' && channels === 2;
  return isMixdown && choices.mono ? settled[choices.mono] : undefined;
}

/** The findings about a sound with what a person decided: an open question becomes what will be done. */
export function findingsWith(facts: CheckedFacts, brief: Brief, choices: Choices): Finding[] {
  return checkAhead(facts, brief).map((finding) => {
    const isOpen = finding.verdict === 'decide' || finding.verdict === 'convert';
    const sentence = isOpen ? decided(finding, facts, choices) : undefined;
    return sentence === undefined ? finding : { ...finding, verdict: 'convert', sentence };
  });
}

/**
 * Says before a build why it cannot be done; null when it can.
 * `findings` are those with what a person decided (`findingsWith`).
 */
export function obstacle(findings: readonly Finding[], brief: Brief): BijouError | null {
  const isOpen = (wanted: Finding['verdict']) => findings.find(({ verdict }) => verdict === wanted);
  // What nobody can decide away stands first.
  const open = isOpen('cannot') ?? isOpen('decide');
  if (!open) return null;
  return new BijouError(
    'not-legal',
    open.sentence,
    open.verdict === 'decide'
      ? 'Make that choice, then build again.'
      : `The brief "${brief.title}" cannot be met as it is.`,
  );
}
