import type { ChannelMode } from '../recipe/steps/channels';
import { BijouError } from '../errors';
import type { Shape, Step } from '../recipe/types';
import { checkAhead } from './check';
import type { Brief, BriefFile } from './schema';
import type { CheckedFacts, Finding } from './types';

/** How a stereo sound becomes mono where a brief wants mono. */
export const monoChoices = ['mix', 'left', 'right'] as const;
export type MonoChoice = (typeof monoChoices)[number];

/** What a person decided for one sound and one brief. */
export interface Choices {
  mono?: MonoChoice | undefined;
}

/**
 * The steps that a brief's file adds behind the sound's own recipe.
 * Channels come first: resampling one channel costs half as much.
 */
export function conversionSteps(shaped: Shape, file: BriefFile, choices: Choices): Step[] {
  const steps: Step[] = [];
  if (!file.channels.includes(shaped.channelCount)) {
    const mode: ChannelMode = shaped.channelCount === 1 ? 'stereo' : (choices.mono ?? 'mix');
    steps.push({ kind: 'channels', on: true, params: { mode } });
  }
  if (!file.sampleRatesHz.includes(shaped.rateHz)) {
    steps.push({ kind: 'resample', on: true, params: { rateHz: file.sampleRatesHz[0] } });
  }
  return steps;
}

const settled: Record<MonoChoice, string> = {
  mix: 'Both channels are mixed to one, as chosen.',
  left: 'Only the left channel is kept, as chosen.',
  right: 'Only the right channel is kept, as chosen.',
};

/** The findings about a sound with what a person decided: an open question becomes what will be done. */
export function findingsWith(facts: CheckedFacts, brief: Brief, choices: Choices): Finding[] {
  return checkAhead(facts, brief).map((finding) => {
    const isMixdown = finding.requirement === 'channels' && facts.channels === 2;
    const isOpen = finding.verdict === 'decide' || finding.verdict === 'convert';
    return isMixdown && isOpen && choices.mono !== undefined
      ? { ...finding, verdict: 'convert', sentence: settled[choices.mono] }
      : finding;
  });
}

/**
 * Says before a build why it cannot be done; null when it can.
 * A finding that needs a decision counts as settled once the choice is made.
 */
export function obstacle(facts: CheckedFacts, brief: Brief, choices: Choices): BijouError | null {
  const open = findingsWith(facts, brief, choices).find(
    ({ verdict }) => verdict === 'cannot' || verdict === 'decide',
  );
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
