import { knownCases } from '../../tools/answers/cases';
import { ownDecoder, wrongIn } from '../../tools/answers/judge';

/** Signals whose right answer is known, through steps, rates and formats. All of them: `npm run bench answers`. */

const cases = knownCases('some');
const groups = [...new Set(cases.map(({ group }) => group))];

test.each(groups)('%s', async (group) => {
  const wrong: (string | null)[] = [];
  for (const one of cases.filter((each) => each.group === group)) {
    wrong.push(await wrongIn(one, ownDecoder));
  }
  expect(wrong.length).toBeGreaterThan(1);
  expect(wrong.filter((text) => text !== null)).toEqual([]);
});
