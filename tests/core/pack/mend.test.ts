import fc from 'fast-check';
import { mendJson } from '@/core/pack/mend/mend';
import { jsonTree, plainValue } from '@/core/pack/mend/tree';

const index = {
  calls: [
    {
      id: 'gull/near',
      variants: [
        { path: 'gull_1.ogg', odds: 1 },
        { path: 'gull_2.ogg', odds: 0.5 },
      ],
      levelDb: 0,
      pitch: [0.9, 1.1],
      read: 'whole',
    },
    {
      id: 'storm',
      variants: [{ path: 'storm, far out.ogg', odds: 1 }],
      levelDb: -3,
      pitch: [0.5, 1.5],
      read: 'piecewise',
    },
    { id: 'bell', variants: ['bell.ogg'], levelDb: -3, pitch: [0.5, 1.5], read: 'piecewise' },
  ],
};

/** Signs that mean something to JSON: those outside of strings, and the quotation marks. */
function significant(text: string): number[] {
  const places: number[] = [];
  let isInside = false;
  for (let i = 0; i < text.length; i++) {
    if (text[i] === '"') {
      isInside = !isInside;
      places.push(i);
    } else if (!isInside && ',:[]{}'.includes(text[i]!)) places.push(i);
  }
  return places;
}

test.each([
  ['over several lines', 2],
  ['in one line', 0],
])('whichever sign is taken out of an index %s, it comes back', (_, indent) => {
  const text = JSON.stringify(index, null, indent);
  const places = significant(text);
  expect(places.length).toBeGreaterThan(130);
  for (const at of places) {
    const hurt = text.slice(0, at) + text.slice(at + 1);
    const { problems, text: mended } = mendJson(hurt);
    const where = `${text.slice(Math.max(0, at - 12), at)}⟨${text[at]}⟩${text.slice(at + 1, at + 12)}`;
    expect([where, problems.length]).toEqual([where, 1]);
    expect([where, JSON.parse(mended!)]).toEqual([where, index]);
  }
});

test('several at once are mended, each at its place', () => {
  const text = JSON.stringify(index, null, 2);
  const places = significant(text);
  for (let first = 3; first < 24; first++) {
    const wounds = places.filter((_, i) => i % 29 === first).reverse();
    const hurt = wounds.reduce((left, at) => left.slice(0, at) + left.slice(at + 1), text);
    const { problems, text: mended } = mendJson(hurt);
    expect(problems).toHaveLength(wounds.length);
    expect(JSON.parse(mended!)).toEqual(index);
  }
});

test.each([
  ['{\n  "a": 1\n  "b": 2\n}', 2, 'a comma is missing behind line 2', 'put , there'],
  ['{\n  "a" 1\n}', 2, 'a colon is missing', 'put : there'],
  ['{\n  "a": "x\n}', 2, 'a quotation mark is missing behind line 2', 'put " there'],
  ['{ "a": [1, 2 }', 1, 'a closing square bracket is missing', 'put ] there'],
  ['{ "a": 1,\n}', 1, 'a comma is too much', 'take it away'],
  ['{ "a": 1 }}', 1, 'a closing brace is too much', 'take it away'],
  ['{ “a”: 1 }', 1, '“ is no quotation mark of JSON', 'write "'],
  ["{ 'a': 1 }", 1, "' is no quotation mark of JSON", 'write "'],
  ['{ a: 1 }', 1, '“a” has no quotation marks', 'put " there'],
  ['{ "a": .5 }', 1, 'a number begins with a digit', 'put 0 there'],
  ['{ "a": 007 }', 1, 'a number has no zeros in front', 'take it away'],
  ['{ "a": True }', 1, 'True is no word of JSON', 'write true'],
  ['{ "a": 1 } // end', 1, 'there are no comments in JSON', 'take it away'],
  ['{ "a" = 1 }', 1, '= stands where a colon belongs', 'write :'],
  ['\uFEFF{ "a": 1 }', 1, 'a mark of its encoding stands in front of the text', 'take it away'],
  ['{ "a": [1, 2,', 1, 'the text ends too early', 'write ]}'],
])('%j is told and mended', (hurt, line, message, mend) => {
  const { problems, text } = mendJson(hurt);
  expect(problems.map((one) => [one.line, one.message, one.mend])).toEqual([[line, message, mend]]);
  expect(() => JSON.parse(text!) as unknown).not.toThrow();
});

test('places are counted in the text as it came, whatever was mended in front', () => {
  const { problems } = mendJson('{\n  a: 1,\n  "b" 2,\n  "c": [3 4]\n}');
  expect(problems.map(({ line, column }) => [line, column])).toEqual([
    [2, 3],
    [3, 6],
    [4, 10],
  ]);
});

test.each(['', 'hello world', '<html></html>', '{"a":', '\u0001', '{"a": "\\x"}'])(
  '%j is none that could be mended, and says so',
  (text) => {
    const { problems, text: mended } = mendJson(text);
    expect(problems.length).toBeGreaterThan(0);
    expect(mended).toBeNull();
  },
);

test('neither depth nor length nor very many faults are a trap', () => {
  expect(mendJson('['.repeat(1_000_000)).problems[0]!.message).toMatch(/too deep/);
  const long = JSON.stringify({
    calls: Array.from({ length: 10_000 }, (_, i) => ({ ...index.calls[0], id: `c${i}` })),
  });
  expect(mendJson(long)).toEqual({ problems: [], text: long });
  expect(mendJson('{"a" 1,'.repeat(5_000)).problems.length).toBeLessThanOrEqual(100);
});

test('whatever is JSON is left alone, and read as it is', () => {
  fc.assert(
    fc.property(fc.jsonValue({ maxDepth: 6 }), fc.constantFrom(0, 1, 4), (value, indent) => {
      const text = JSON.stringify(value, null, indent);
      expect(mendJson(text)).toEqual({ problems: [], text });
      expect(plainValue(jsonTree(text)!)).toEqual(JSON.parse(text));
    }),
    { numRuns: 300 },
  );
});

test('what mending answers is JSON, whatever was done to a text', () => {
  fc.assert(
    fc.property(
      fc.jsonValue({ maxDepth: 4 }),
      fc.array(fc.tuple(fc.nat(), fc.constantFrom('', '"', ',', ':', '{', ']', 'x')), {
        maxLength: 4,
      }),
      (value, wounds) => {
        const hurt = wounds.reduce((text, [at, put]) => {
          const place = at % Math.max(1, text.length);
          return text.slice(0, place) + put + text.slice(place + 1);
        }, JSON.stringify(value));
        const { problems, text } = mendJson(hurt);
        if (text !== null) expect(() => JSON.parse(text) as unknown).not.toThrow();
        // It is JSON exactly where nothing is wrong with it.
        let isJson = true;
        try {
          JSON.parse(hurt);
        } catch {
          isJson = false;
        }
        expect(problems.length === 0).toBe(isJson);
      },
    ),
    { numRuns: 400 },
  );
});
