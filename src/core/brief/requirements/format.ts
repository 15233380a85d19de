import { writerById } from '../../formats/write';
import { isLossy } from '../../formats/lossy';
import { either, formatName } from '../../tradeNames';
import type { BriefFile } from '../schema';
import type { CheckedFacts } from '../types';
import type { Requirement } from './requirement';

/** Container and codec: those that are made, or others that are taken as well. */
export const format: Requirement = {
  id: 'format',
  judge(facts, file) {
    const found = formatName(facts.container, facts.codec);
    const taken = [file, ...takenToo(file)];
    const wanted = either(taken.map((one) => formatName(one.container, one.codec)));
    const met = isTakenFormat(facts, file);
    const again = isLossy(facts.codec) && isLossy(file.codec);
    return {
      verdict: met ? 'met' : 'convert',
      found,
      wanted,
      sentence: met
        ? `It is ${found}, as wanted.`
        : `It is ${found}; the destination takes ${wanted}.` +
          (again
            ? ' It was lossy before and loses a little again; use the original if there is one.'
            : ''),
    };
  },
};

function takenToo({ alsoTakes = [] }: BriefFile) {
  return alsoTakes.map(writerById);
}

/** Whether a file of the brief may have this container and codec. */
export function isTakenFormat(
  facts: Pick<CheckedFacts, 'container' | 'codec'>,
  file: BriefFile,
): boolean {
  return [file, ...takenToo(file)].some(
    ({ container, codec }) => facts.container === container && facts.codec === codec,
  );
}
