import { parse as parseCsv } from 'csv-parse/sync';
import fc from 'fast-check';
import { XMLParser } from 'fast-xml-parser';
import ini from 'ini';
import * as yaml from 'js-yaml';
import { parse as parseHtml } from 'parse5';
import type { TextId } from '@/core/brief/layout';
import { textKind, textKinds } from '@/core/pack/texts/kinds';
import { filledTemplate } from '@/core/pack/texts/template';

/** Characters that no text of such a kind can hold are left out. */
const printable = (text: string) => text.replace(/[\0-\x08\x0b\x0c\x0e-\x1f\x7f]/g, '');

/** A template around one value, and what strangers read out of it. */
const strangers: Partial<Record<TextId, [template: string, read: (text: string) => unknown]>> = {
  json: ['{"t": "{{t}}"}', (text) => (JSON.parse(text) as { t: string }).t],
  yaml: ['t: "{{t}}"\n', (text) => (yaml.load(text) as { t: string }).t],
  xml: [
    '<a b="{{t}}">.</a>',
    (text) =>
      (
        new XMLParser({
          ignoreAttributes: false,
          parseAttributeValue: false,
          trimValues: false,
          htmlEntities: true,
        }).parse(text) as { a: { '@_b': string } }
      ).a['@_b'],
  ],
  html: [
    '<!doctype html><title>x</title><p title="{{t}}">y</p>',
    (text) => {
      const page = JSON.stringify(parseHtml(text), (key, value: unknown) =>
        key === 'parentNode' ? undefined : value,
      );
      const [attributes] = [...page.matchAll(/"nodeName":"p"[^]*?"attrs":(\[\{[^]*?\}\])/g)];
      return (JSON.parse(attributes![1]!) as { value: string }[])[0]!.value;
    },
  ],
  csv: ['a,b\n{{t}},2\n', (text) => (parseCsv(text, { columns: true }) as { a: string }[])[0]!.a],
  ini: ['[s]\nb=x{{t}}x\n', (text) => (ini.parse(text) as { s: { b: string } }).s.b],
  c: [
    '/* {{t}} */ const char *t = "{{t}}";\n',
    (text) => {
      const [, escaped] = /const char \*t = "((?:[^"\\\n]|\\.)*)";\n$/.exec(text)!;
      return escaped!.replace(
        /\\(?:([0-7]{1,3})|(.))/g,
        (_, octal: string | undefined, sign: string) =>
          octal
            ? String.fromCharCode(parseInt(octal, 8))
            : sign === 'n'
              ? '\n'
              : sign === 't'
                ? '\t'
                : sign,
      );
    },
  ],
};

const nasty = [
  `"'<script>alert(1)</script>\\ */ //`,
  '{{title}} }} {{/a}} {{{x}}}',
  ']]> <!-- --> &amp; &#0;',
  '=1+1',
  '-',
  'a,b;c\nd\r\n"e"',
  'é 漢字 😀 \u2028 \u200f',
  '??/ \\u0041 %s',
  '# ; [x] = y',
];

describe.each(Object.entries(strangers) as [TextId, [string, (text: string) => unknown]][])(
  'values in %s',
  (id, [template, read]) => {
    const kind = textKind(id);
    const filled = (t: string, isAscii: boolean) => {
      const { text, problems } = filledTemplate(template, { t }, kind, isAscii);
      expect(problems).toEqual([]);
      expect([t, kind.problems(text)]).toEqual([t, []]);
      if (isAscii && kind.inAscii) expect(text).toMatch(/^[\0-\x7f]*$/);
      return read(text);
    };
    /** What such a text can hold of a value. */
    const held = (t: string): string => {
      if (id === 'json' || id === 'yaml') return t;
      const plain = printable(t);
      if (id === 'csv')
        return /^[=+\-@]/.test(plain) && !/^[+-]?[\d.]+$/.test(plain) ? `'${plain}` : plain;
      if (id === 'ini') return `x${plain.replace(/[\r\n\u2028]+/g, ' ')}x`;
      return plain;
    };

    test.each(nasty)('%j stays what it is and ends nothing', (value) => {
      const read = filled(value, false);
      // Line ends become one in markup, C and tables.
      const same = (text: unknown) => String(text).replace(/\r\n?/g, '\n');
      expect(same(read)).toBe(same(held(value)));
    });

    test('nothing that anybody types breaks it, in ASCII neither', () => {
      fc.assert(
        fc.property(
          fc.string({ unit: 'grapheme', maxLength: 30 }),
          fc.boolean(),
          (value, ascii) => {
            filled(value, ascii);
          },
        ),
        { numRuns: 150 },
      );
    });
  },
);

test.each<[TextId, string, number, RegExp]>([
  ['json', '{\n"a": 1\n"b": 2}', 2, /comma is missing behind line 2/],
  ['yaml', 'a: 1\nb: [1, 2\nc: 3\n', 3, /./],
  ['yaml', 'a: 1\na: 2\n', 2, /unique/],
  ['xml', '<a>\n<b>\n</a>', 3, /close tag/],
  ['xml', '<a>&who;</a>', 1, /entity/],
  ['xml', '<a/>\n<b/>', 2, /./],
  ['html', '<!doctype html>\n<div><b>x</div>', 2, /<b> is never closed/],
  ['html', '<p>a\n</i>', 2, /<\/i> closes nothing/],
  ['html', '<a href="x>y</a>', 1, /eof in tag/],
  ['css', 'a {\ncolor: red', 1, /\{ is never closed/],
  ['css', 'a { color red; }', 1, /Colon is expected/],
  ['css', 'a { b: "x\n; }', 1, /./],
  ['c', '#ifndef A\nint a;\n', 1, /no #endif/],
  ['c', 'int a[] = { 1, 2;\n', 1, /\{ is never closed/],
  ['c', 'const char *a = "x;\n', 1, /quotation mark/],
  ['c', 'int 3dB = 1;\n', 1, /“3dB” is no number and no name/],
  ['c', '/* x', 1, /comment has no end/],
  ['csv', 'a,b\n1,2,3\n', 2, /3 fields, the first one 2/],
  ['csv', 'a,b\n"x,2\n', 2, /./],
  ['ini', '[a]\nb\n', 2, /equals sign/],
  ['ini', '[a\n', 1, /square brackets/],
  ['ini', '[a]\nb=1\nb=2\n', 3, /there already/],
])('%s: %j is refused at line %i', (id, text, line, message) => {
  const problems = textKind(id).problems(text);
  expect(problems[0]?.message).toMatch(message);
  expect(problems[0]?.line).toBe(line);
});

test.each<[TextId, string]>([
  [
    'html',
    '<!doctype html><ul><li>a<li>b</ul><p>x<br><img src="a.png"><script>if (a < b) {}</script>',
  ],
  ['css', '@media (width > 3px) { a::after { content: "}"; } } /* } */'],
  ['c', '#define A(x) ((x) + 1) /* "{" */\nstatic const char a = \'"\'; // it\'s\n'],
  ['csv', 'a;b\n"x;\ny";2\n'],
  ['ini', '; note\n\n[a]\nb = c = d\n'],
  ['text', ''],
])('%s takes %j', (id, text) => {
  expect(textKind(id).problems(text)).toEqual([]);
});

describe('templates', () => {
  const json = textKind('json');
  const data = {
    title: 'Storm',
    edition: 3,
    icon: null,
    sounds: [
      { path: 'a.ogg', last: false, loop: { start: 5 } },
      { path: 'b.ogg', last: true, loop: null },
    ],
  };
  const fill = (template: string) => filledTemplate(template, data, json, false);

  test('go through lists, with a comma behind all but the last', () => {
    const { text, problems } = fill(
      '[{{#sounds}}{"p": "{{path}}"{{#loop}}, "s": {{start}}{{/loop}}}{{^last}}, {{/last}}{{/sounds}}]',
    );
    expect(problems).toEqual([]);
    expect(JSON.parse(text)).toEqual([{ p: 'a.ogg', s: 5 }, { p: 'b.ogg' }]);
  });

  test.each([
    ['"{{titel}}"', 1, /titel.*there is \{\{title\}\}/],
    ['\n  "{{constructor}}"', 2, /stands for nothing/],
    ['{{__proto__.x}}', 1, /stands for nothing/],
    ['{{title.length}}', 1, /stands for nothing/],
    ['{{#sounds}}{{toString}}{{/sounds}}', 1, /stands for nothing/],
    ['{{sounds.constructor.name}}', 1, /stands for nothing/],
    ['{{#title}}', 1, /unclosed section/],
    ['a\n{{/title}}', 2, /unopened section/],
    ['{{title', 1, /unclosed tag/],
    ['{{>other}}', 1, /no other templates/],
    ['{{{title}}}', 1, /every value is escaped/],
    ['{{&title}}', 1, /every value is escaped/],
    ['{{#sounds}}'.repeat(60) + '{{/sounds}}'.repeat(60), 1, /too deep/],
  ])('%j is refused at line %i', (template, line, message) => {
    const [problem] = fill(template).problems;
    expect(problem?.message).toMatch(message);
    expect(problem?.line).toBe(line);
  });

  test('come to an end, whatever stands inside of what', () => {
    const list = Array.from({ length: 1_000 }, (_, i) => ({ i }));
    const nested = (depth: number, inner: string) =>
      '{{#list}}'.repeat(depth) + inner + '{{/list}}'.repeat(depth);
    for (const template of [nested(12, 'x'), nested(2, 'x'.repeat(1_000)), nested(3, '')]) {
      expect(() => filledTemplate(template, { list }, json, false)).toThrow(/far too much text/);
    }
  });
});

test('every kind of text that there is has been tried', () => {
  const tried = new Set([...Object.keys(strangers), 'css', 'text']);
  expect(textKinds.map(({ id }) => id).filter((id) => !tried.has(id))).toEqual([]);
});
