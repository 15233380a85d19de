import { plural } from '../../words';
import { isTakenFormat } from './format';
import type { Requirement } from './requirement';

export const bytes: Requirement = {
  id: 'bytes',
  isOfFinished: true,
  judge(facts, file, { mostBytes }) {
    // Another format will have another size.
    if (mostBytes === undefined || !isTakenFormat(facts, file)) return null;
    const met = facts.bytes <= mostBytes;
    const wanted = `at most ${plural(mostBytes, 'byte')}`;
    return {
      verdict: met ? 'met' : 'cannot',
      found: plural(facts.bytes, 'byte'),
      wanted,
      sentence: met
        ? 'Small enough.'
        : `Too large by ${plural(facts.bytes - mostBytes, 'byte')}: the destination takes ${wanted}.`,
    };
  },
};
