import type { ChannelMode } from '../recipe/steps/channels';
import { BijouError } from '../errors';
import { USUAL_CEILING_DBTP } from '../recipe/steps/normalise';
import type { Shape, Step } from '../recipe/types';
import { plainNumber } from '../tradeNames';
import { checkAhead } from './check';
import { clippings, clippingStep, type Choices, type MonoChoice } from './choices';
import type { Brief, BriefFile } from './schema';
import type { CheckedFacts, Finding } from './types';

/**
 * The steps that a brief's file adds behind the sound's own recipe.
 * Channels come first: resampling one channel costs half as much. Levels come last.
 */
export function conversionSteps(
  shaped: Shape,
  file: BriefFile,
  choices: Choices,
  levels: readonly Step[] = [],
): Step[] {
  const steps: Step[] = [];
  if (!file.channels.includes(shaped.channelCount)) {
    const mode: ChannelMode = shaped.channelCount === 1 ? 'stereo' : (choices.mono ?? 'mix');
    steps.push({ kind: 'channels', on: true, params: { mode } });
  }
  if (!file.sampleRatesHz.includes(shaped.rateHz)) {
    steps.push({ kind: 'resample', on: true, params: { rateHz: file.sampleRatesHz[0] } });
  }
  if (choices.levelBehind && steps.length > 0) steps.push(...levels);
  const cure = clippingStep(choices.clipping, choices.ceilingDbtp);
  return cure ? [...steps, cure] : steps;
}

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
  const open = findings.find(({ verdict }) => verdict === 'cannot' || verdict === 'decide');
  if (!open) return null;
  const decide = open.verdict === 'decide';
  return new BijouError(
    'not-legal',
    open.sentence,
    decide
      ? 'Make that choice, then build again.'
      : `The brief "${brief.title}" cannot be met as it is.`,
  );
}
