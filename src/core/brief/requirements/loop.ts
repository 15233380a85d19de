import { formatTime } from '../../time';
import { plainNumber } from '../../tradeNames';
import type { Brief } from '../schema';
import type { CheckedFacts } from '../types';
import type { Judgement, Requirement } from './requirement';

/** Whether there has to be a loop, and where it is marked. */
export const loop: Requirement = {
  id: 'loop',
  judge(facts, _, { loop: demand }) {
    if (!demand || facts.loop === undefined) return null;
    const { marked, isNeeded = false } = demand;
    if (marked === 'forbidden') return forbidden(facts);
    if (!isNeeded && (facts.loop === null || marked === undefined)) return null;
    const place = marked === 'file' ? ' marked in the file' : '';
    const wanted = `a loop${place}`;
    if (facts.loop === null) {
      return {
        verdict: 'decide',
        found: 'no loop',
        wanted,
        sentence:
          'The destination repeats it, and no loop is marked: mark one, or repeat all of it.',
      };
    }
    const isLost = marked === 'file' && facts.isLoopInFile === false;
    return {
      verdict: isLost ? 'convert' : 'met',
      found: loopText(facts),
      wanted,
      sentence: isLost
        ? 'It repeats, and the file does not say where.'
        : marked === 'file'
          ? 'Its loop is marked in the file.'
          : 'Its loop stands in the manifest of the pack.',
    };
  },
};

function forbidden({ loop, ...facts }: CheckedFacts): Judgement {
  const wanted = 'no loop';
  return loop
    ? {
        verdict: 'convert',
        found: loopText({ loop, ...facts }),
        wanted,
        sentence: 'The destination takes no loop: the mark is left out.',
      }
    : { verdict: 'met', found: wanted, wanted, sentence: 'No loop is marked, as wanted.' };
}

function loopText({ loop, sampleRateHz }: CheckedFacts): string {
  const { startFrame, endFrame } = loop!;
  return `${formatTime(startFrame / sampleRateHz)} to ${formatTime(endFrame / sampleRateHz)}`;
}

/** How little its seam may be heard. */
export const seam: Requirement = {
  id: 'seam',
  judge({ loop, seamScore }, _, { loop: demand }: Brief) {
    const least = demand?.leastSeamScore;
    if (least === undefined || !loop || seamScore == null) return null;
    const met = seamScore >= least;
    const found = `${plainNumber(seamScore, 0)} of 100`;
    return {
      verdict: met ? 'met' : 'decide',
      found,
      wanted: `at least ${plainNumber(least, 0)} of 100`,
      sentence: met
        ? `Its seam scores ${found}: smooth enough.`
        : `Its seam scores ${found} and is heard: make a crossfade in Shape, or move the loop.`,
    };
  },
};
