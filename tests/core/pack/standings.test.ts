import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parse as parseCsv } from 'csv-parse/sync';
import fc from 'fast-check';
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import ini from 'ini';
import * as yaml from 'js-yaml';
import { parse as parseHtml } from 'parse5';
import type { TextId } from '@/core/brief/layout';
import { textKind } from '@/core/pack/texts/kinds';
import { filledTemplate } from '@/core/pack/texts/template';

/** Values come from strangers' archives: none of them may break out of where it stands. */

const breakouts = [
  ...[
    '"',
    "'",
    '`',
    '\\',
    '\\\\',
    '*/',
    '/*',
    '*',
    '/',
    '//',
    '-->',
    '--',
    ']]>',
    '<',
    '>',
    '&',
    ';',
    '#',
  ],
  ...[
    '</script>',
    '<script>alert(1)</script>',
    '</title>',
    '<!--',
    '?>',
    'javascript:alert(1)',
    'java\tscript:x',
  ],
  ...[
    '"onload="x',
    ' onload=x',
    "' onload='x",
    '=1+1',
    '\t=1+1',
    '\u200b=1',
    '@x',
    '{',
    '}',
    '{{t}}',
    '[',
    ']',
    '\n',
  ],
  ...[
    '\r\n',
    '\u2028',
    '\u0085',
    ': x',
    ' # x',
    '- x',
    '| x',
    '%TAG',
    '!!js/function',
    '??/',
    '\\x41',
    '\\u0022',
  ],
  ...[
    ',',
    '","',
    ';',
    '\n[other]\n',
    'a=b',
    '\u202e',
    'url(x)',
    '@import "x"',
    ') ; (',
    'https://a/b?c#d',
    '../..',
  ],
];
const nasty = fc.oneof(
  fc.constantFrom(...breakouts),
  fc
    .array(fc.constantFrom(...breakouts, 'tide', ' '), { maxLength: 5 })
    .map((list) => list.join('')),
  fc.string({ unit: 'binary', maxLength: 20 }),
);

const shapeOfValue = (value: unknown): unknown => {
  if (Array.isArray(value)) return value.map(shapeOfValue);
  if (typeof value !== 'object' || value === null) return typeof value;
  return Object.values(value).map(shapeOfValue);
};
const shapeOfPage = (text: string): unknown => {
  const walk = (node: {
    nodeName: string;
    attrs?: { name: string; value: string }[];
    childNodes?: never[];
  }): unknown => [
    node.nodeName,
    (node.attrs ?? []).map(({ name, value }) => [
      name,
      // A browser takes blanks out of the front of an address, and line ends out of all of it.
      /^(href|src)$/.test(name) ? /^\s*javascript:/i.test(value.replace(/[\t\n\r]/g, '')) : '',
    ]),
    // A text may be empty, and is none then.
    (node.childNodes ?? [])
      .filter((one: { nodeName: string }) => one.nodeName !== '#text')
      .map(walk),
  ];
  return walk(parseHtml(text) as never);
};

/** Templates in which a value may stand, and the structure of what comes of them, as strangers see it. */
const templates: Partial<
  Record<TextId, { templates: string[]; shape: (text: string) => unknown }>
> = {
  json: {
    templates: ['{"a": "{{t}}", "b": ["x{{t}}{{u}}y"], "key {{u}}": 1, "n": {{n}}}'],
    shape: (text) => shapeOfValue(JSON.parse(text)),
  },
  yaml: {
    templates: ['a: "{{t}}"\nb: ["{{u}}", {c: "x{{t}}{{u}}"}]\n# {{t}}\nd: {{n}}\n'],
    shape: (text) => shapeOfValue(yaml.load(text)),
  },
  xml: {
    templates: ['<a b="{{t}}" c=\'{{u}}\'>{{t}}<d e="{{u}}"/>x{{t}}{{u}}</a>'],
    shape: (text) => {
      expect(XMLValidator.validate(text)).toBe(true);
      const parser = new XMLParser({
        ignoreAttributes: false,
        parseTagValue: false,
        parseAttributeValue: false,
      });
      return Object.keys((parser.parse(text) as { a: object }).a).sort();
    },
  },
  html: {
    templates: [
      '<!doctype html><title>{{t}}</title><p title="{{t}}" class=\'a {{u}}\'>{{t}}{{u}}<b>{{u}}</b></p>',
      '<p><a href="{{t}}">x</a><img src="{{u}}"><a href="/x/{{t}}">y</a><a href="https://a/{{t}}">z</a><a href="{{t}}{{u}}">q</a></p>',
      '<textarea>{{t}}</textarea><audio data-x="{{t}}" width={{n}}></audio>',
    ],
    shape: shapeOfPage,
  },
  csv: {
    templates: ['a,b,c\n{{t}},{{u}},{{n}}\n{{u}},x,{{t}}\n'],
    shape: (text) => {
      const rows = parseCsv(text) as string[][];
      for (const field of rows.flat()) expect(field).not.toMatch(/^\s*[=+@]/);
      return rows.map((row) => row.length);
    },
  },
  ini: {
    templates: ['; {{t}}\n[s]\na={{t}}\nb = x{{u}}y{{t}}\n'],
    shape: (text) =>
      Object.entries(ini.parse(text)).map(([name, all]) => [name, Object.keys(all as object)]),
  },
};

const filled = (id: TextId, template: string, t: string, u: string) =>
  filledTemplate(template, { t, u, n: 7 }, textKind(id), false);

describe.each(Object.entries(templates))('%s', (id, { templates: list, shape }) => {
  test.each(list)('whatever comes into %j, the structure stays', (template) => {
    const plain = filled(id as TextId, template, 'tide', 'bell');
    expect(plain.problems).toEqual([]);
    const wanted = shape(plain.text);
    fc.assert(
      fc.property(nasty, nasty, (t, u) => {
        const { text, problems } = filled(id as TextId, template, t, u);
        expect(problems).toEqual([]);
        expect(shape(text)).toEqual(wanted);
      }),
      { numRuns: 300 },
    );
  });
});

test('whatever comes into C, a compiler reads the same declarations', () => {
  const template =
    '/* {{t}} */\n// {{t}} .\n#define TITLE "{{t}}"\nstatic const char *const NAME[] = { "{{t}}", "x{{t}}{{u}}y" };\nenum { NAME_END = {{n}} };\n';
  const values = [
    ...breakouts,
    ...breakouts.map((one, i) => one + breakouts[(i * 7) % breakouts.length]!),
  ];
  const parts = values.map((t, i) => {
    const { text, problems } = filled(
      'c',
      template.replaceAll('NAME', `name${i}`).replaceAll('TITLE', `T${i}`),
      t,
      t,
    );
    expect(problems).toEqual([]);
    return `${text}int size${i} = sizeof name${i} / sizeof *name${i} + name${i}_END + sizeof T${i} * 0;\n`;
  });
  let cc: string | null = null;
  try {
    cc = execFileSync('which', ['cc']).toString().trim();
  } catch {
    // Without a compiler the text's own check is all there is.
  }
  if (!cc) return;
  const folder = mkdtempSync(join(tmpdir(), 'bijou-test-'));
  try {
    writeFileSync(join(folder, 'a.c'), parts.join(''));
    execFileSync(cc, ['-std=c99', '-trigraphs', '-fsyntax-only', join(folder, 'a.c')], {
      stdio: 'pipe',
    });
  } finally {
    rmSync(folder, { recursive: true });
  }
});

test.each<[TextId, string, RegExp]>([
  ['html', '<p title={{t}}>x</p>', /a blank in it would end it.*quotation marks/],
  ['html', '<p {{t}}="x">x</p>', /name of an element or attribute/],
  ['html', '<{{t}}>x', /name of an element|whatever it holds/],
  ['html', '<script>const a = "{{t}}";</script>', /<script> is code.*data-/],
  ['html', '<style>p { color: {{t}} }</style>', /<style> is code/],
  ['html', '<svg><style>{{t}}</style></svg>', /<style> is code/],
  ['html', '<p onclick="say(\'{{t}}\')">x</p>', /onclick holds code/],
  ['html', '<p style="color: {{t}}">x</p>', /style is read as something else/],
  ['html', '<iframe srcdoc="{{t}}"></iframe>', /srcdoc is read/],
  ['html', '<meta http-equiv="refresh" content="0;url={{t}}">', /content is read/],
  ['html', '<a href="javascript:{{t}}">x</a>', /can do more than lead somewhere/],
  ['html', '<a href="{{t}}:x">x</a>', /can do more than lead somewhere/],
  ['html', '<!-- {{t}} --><p>x</p>', /comment could end it/],
  ['xml', '<a><!-- {{t}} --></a>', /comment could end it/],
  ['xml', '<a><![CDATA[{{t}}]]></a>', /CDATA/],
  ['xml', '<{{t}}/>', /name of an element|whatever it holds/],
  ['xml', '<a {{t}}="1"/>', /name of an element or attribute/],
  ['c', 'int {{t}} = 1;', /part of the text around it/],
  ['c', "char a = '{{t}}';", /single character/],
  ['c', '// {{t}}\nint a;', /next line into the comment/],
  ['c', '// {{t}}{{u}}\nint a;', /next line into the comment/],
  ['c', '/* *{{t}} */', /could end the comment/],
  ['c', '/* {{t}}{{u}} */', /could end the comment/],
  ['c', '/* {{t}}*/', /could end the comment/],
  ['c', 'char *a = "\\{{t}}";', /backslash in front of it/],
  ['c', '#include <{{t}}>', /part of the text around it/],
  ['css', '.{{t}} { color: red }', /part of the text around it/],
  ['css', 'p { background: url({{t}}) }', /part of the text around it/],
  ['css', '/*{{t}}*/', /could end the comment/],
  ['css', 'p::before { content: "\\{{t}}" }', /backslash/],
  ['json', '{"a": {{t}}}', /part of the text around it/],
  ['json', '{"a": "\\{{t}}"}', /backslash/],
  ['yaml', 'a: {{t}}', /part of the text around it/],
  ['yaml', "a: '{{t}}'", /double quotation marks/],
  ['yaml', 'a: |\n  "{{t}}"', /part of the text around it/],
  ['yaml', '{{t}}: 1', /part of the text around it/],
  ['csv', 'a,b\n"{{t}}",1', /whole field/],
  ['csv', 'a,b\nx{{t}},1', /whole field/],
  ['csv', 'a,b\n{{t}}{{u}},1', /whole field/],
  ['ini', '[{{t}}]\na=1', /name of a section/],
  ['ini', '{{t}}=1', /name of a section or a key/],
])('%s: %j is refused, with line, column and the cure', (id, template, sentence) => {
  const { text, problems } = filledTemplate(
    `\n ${template}`,
    { t: 'tide', u: 'bell' },
    textKind(id),
    false,
  );
  expect(text).toBe('');
  const [problem] = problems;
  expect(`${problem?.message} ${problem?.cure}`).toMatch(sentence);
  expect(problem).toMatchObject({ line: expect.any(Number), column: expect.any(Number) });
  expect(problem!.line).toBeGreaterThan(1);
});

test('an address of another kind is made a path; one that leads somewhere stays', () => {
  const href = (t: string) =>
    /href="([^"]*)"/.exec(filled('html', '<a href="{{t}}">x</a>', t, '').text)?.[1];
  expect(href('javascript:alert(1)')).toBe('javascript%3Aalert(1)');
  expect(href('java\nscript:alert(1)')).toBe('javascript%3Aalert(1)');
  expect(href(' data:text/html,x')).toBe('data%3Atext/html,x');
  expect(href('https://skerry.example/a?b&c')).toBe('https://skerry.example/a?b&amp;c');
  expect(href('sounds/tide 1.ogg')).toBe('sounds/tide 1.ogg');
});
