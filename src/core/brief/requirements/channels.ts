import { isMixable } from '../../dsp/channels';
import { speakersOf } from '../../pcm/speakers';
import { either, layoutName } from '../../tradeNames';
import { channelTarget } from '../target';
import type { CheckedFacts, Verdict } from '../types';
import { capital, type Requirement } from './requirement';

export const channels: Requirement = {
  id: 'channels',
  judge(facts, file) {
    const target = channelTarget(file, facts.channels);
    if (!file.channels && target === facts.channels) return null;
    const found = layoutName(facts.channels);
    const wanted = either((file.channels ?? [target ?? facts.channels]).map(layoutName));
    const common = { found, wanted };
    if (target === facts.channels) {
      return { ...common, verdict: 'met', sentence: `${capital(found)} is accepted.` };
    }
    if (target === null) {
      return {
        ...common,
        verdict: 'cannot',
        sentence: `Nobody can make ${wanted} of ${found}: there would be nothing in the other channels.`,
      };
    }
    if (facts.channels > 2) return { ...common, ...surroundVerdict(facts) };
    if (facts.channels === 1) {
      return {
        ...common,
        verdict: 'convert',
        sentence: 'The one channel is copied to both sides.',
      };
    }
    return { ...common, ...mixVerdict(facts.correlation) };
  },
};

/** Layouts whose speakers are known are mixed down after ITU-R BS.775. */
function surroundVerdict({ channels, speakers = speakersOf(channels) }: CheckedFacts): {
  verdict: Verdict;
  sentence: string;
} {
  return isMixable(speakers)
    ? {
        verdict: 'convert',
        sentence: `${capital(layoutName(channels))} is mixed down, so that nothing can clip.`,
      }
    : {
        verdict: 'cannot',
        sentence: `Nobody has said how ${speakers?.join(' ') ?? `${channels} channels`} are mixed down.`,
      };
}

/** Two sounds that have nothing in common come out a hair above or below 0; that is not cancelling. */
const AGAINST = -0.05;

function mixVerdict(correlation: number | null | undefined): {
  verdict: Verdict;
  sentence: string;
} {
  if (correlation != null && correlation < AGAINST) {
    return {
      verdict: 'decide',
      sentence:
        `Left and right work against each other (correlation ${correlation.toFixed(2).replace('-', '−')}): mixed, they ` +
        'would partly cancel. Choose to keep the left or the right channel, or mix all the same.',
    };
  }
  const measured =
    correlation == null ? '' : ` (correlation ${correlation.toFixed(2).replace('-', '−')})`;
  return {
    verdict: 'convert',
    sentence: `Both channels are mixed to one${measured}, unless you keep just one.`,
  };
}
