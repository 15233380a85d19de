import { either } from '../../tradeNames';
import { depthTarget } from '../target';
import { isEncoded } from '../../formats/lossy';
import { isTakenFormat } from './format';
import type { Requirement } from './requirement';

export const bitDepth: Requirement = {
  id: 'bit-depth',
  judge(facts, file) {
    if (!file.bitDepths) return null;
    // Of the formats that are taken as well, some have no depth.
    const isOther = facts.container !== file.container || facts.codec !== file.codec;
    if (isOther && isEncoded(facts) && isTakenFormat(facts, file)) return null;
    const wantedBits = depthTarget(file, facts) ?? file.bitDepths[0]!;
    const met =
      facts.bitDepth !== null && file.bitDepths.includes(facts.bitDepth) && facts.codec !== 'float';
    const found = facts.bitDepth === null ? 'none (lossy)' : `${facts.bitDepth}-bit`;
    const reduced =
      facts.bitDepth === null || facts.bitDepth > wantedBits || facts.codec === 'float';
    return {
      verdict: met ? 'met' : 'convert',
      found,
      wanted: either(file.bitDepths.map((bits) => `${bits}-bit`)),
      sentence: met
        ? `${found} is accepted.`
        : reduced
          ? `Written with ${wantedBits} bits and dither.`
          : `Written with ${wantedBits} bits; the sound gains nothing and loses nothing.`,
    };
  },
};
