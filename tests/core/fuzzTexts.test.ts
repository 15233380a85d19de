import { mutate, randomOf } from '../../tools/fuzz/mutate';
import { survivingText } from '../../tools/fuzz/survive';
import { otherText, textSeeds } from '../../tools/fuzz/texts';
import { encodeText } from '@/core/formats/bits';
import { textKind } from '@/core/pack/texts/kinds';

// `npm run fuzz` takes thousands.
const TEXTS = 8;

test.each(Object.entries(textSeeds))(
  '%s: whole it is taken; whatever strangers may have written is refused in words, and soon',
  async (_, seed) => {
    expect(await survivingText(seed.take, seed.whole)).toBeNull();
    for (let n = 1; n <= TEXTS; n++) {
      const { name, bytes } = n % 4 === 0 ? mutate(seed.whole, n) : otherText(seed, randomOf(n));
      const problem = await survivingText(seed.take, bytes);
      if (problem) throw new Error(`seed ${n} (${name}): ${problem}`);
    }
  },
);

/** What once kept somebody busy for minutes, or ended the process. */
test.each<[string, string, string]>([
  ['index', 'fifty thousand names under one id', `{"a":[${'"a.ogg",'.repeat(50_000)}"b.ogg"]}`],
  ['index', 'nothing but signs', ','.repeat(200_000)],
  ['index', 'a long list without its end', `[${'1,'.repeat(400_000)}`],
  ['yaml', 'nested deep in one line', '- '.repeat(50_000)],
  ['yaml', 'nested deep in brackets', '[{a: '.repeat(30_000)],
  ['css', 'thirty thousand mistakes', '<script>'.repeat(30_000)],
  ['css', 'nested deep', 'a{('.repeat(50_000)],
  ['c', 'a line of blanks', `a${' '.repeat(300_000)}#`],
  ['ini', 'a line of blanks', `a${' '.repeat(300_000)}`],
  ['text', 'a path of sixty thousand parts', `{{#a}}{{b${'.b'.repeat(60_000)}}}{{/a}}`],
  [
    'html',
    'many that are open, and as many that close nothing',
    `${'<b>'.repeat(60_000)}${'</i>'.repeat(60_000)}`,
  ],
  ['stage', 'a line of blanks', `a\nb\n${' '.repeat(300_000)}x`],
])('%s: %s', async (kind, _, text) => {
  expect(await survivingText(textSeeds[kind]!.take, encodeText(text))).toBeNull();
});

test('a text that is wrong in a thousand places says where the first ones are', () => {
  for (const id of ['css', 'yaml', 'html', 'c', 'csv'] as const) {
    const problems = textKind(id).problems(`"a\n}<\n`.repeat(1_000));
    if (problems.length > 0) expect(problems[0]).toMatchObject({ line: expect.any(Number) });
  }
});
