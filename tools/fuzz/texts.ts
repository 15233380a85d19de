import { builtinTexts } from '@/core/brief/builtin';
import { demandsOf } from '@/core/brief/demands';
import { briefFile, readBriefFile } from '@/core/brief/exchange';
import type { TextId } from '@/core/brief/layout';
import { decodeText, encodeText } from '@/core/formats/bits';
import { hostById } from '@/core/host';
import { readSettings } from '@/core/host/filter/settings';
import { heldFile } from '@/core/host/pack';
import { rehearse } from '@/core/host/rehearse';
import { callsText } from '@/core/pack/calls/calls';
import { readIndex } from '@/core/pack/calls/readIndex';
import { plainIcon } from '@/core/pack/icon/check';
import { drawnIcon } from '@/core/pack/icon/draw';
import { packPlan } from '@/core/pack/plan';
import { textKind } from '@/core/pack/texts/kinds';
import { filledTemplate } from '@/core/pack/texts/template';
import { parseRecipe } from '@/core/recipe/recipe';

/** One kind of text, or what comes with a pack, that strangers may have written. */
export interface TextSeed {
  whole: Uint8Array;
  /** What is put in, left out and repeated. */
  pieces: readonly string[];
  /** Does with it what Bijou does. Whatever it throws that is no error of ours is a fault. */
  take(bytes: Uint8Array): unknown;
}

/** Marks that mean something in one text or another. */
const MARKS = [
  ...[
    '"',
    "'",
    '\\',
    '{',
    '}',
    '[',
    ']',
    '<',
    '>',
    '/',
    '*',
    '#',
    ';',
    ':',
    ',',
    '=',
    '&',
    '-',
    '\n',
    '\t',
    ' ',
  ],
  ...[
    '//',
    '/*',
    '*/',
    '<!--',
    '-->',
    '<![CDATA[',
    ']]>',
    '<a>',
    '</a>',
    '<script>',
    '&amp;',
    '{{a}}',
    '{{#a}}',
  ],
  ...[
    '{{/a}}',
    '{{^a}}',
    '{{>a}}',
    '{{{a}}}',
    '{{=<% %>=}}',
    '- a\n',
    'a: ',
    '? ',
    '| \n',
    '&x ',
    '*x ',
    '!!a ',
    '---\n',
  ],
  ...[
    '#if\n',
    '#endif\n',
    '0x',
    '1e',
    '\u0000',
    '\ufeff',
    '\u2028',
    '\u00df',
    'a.ogg',
    '"a.ogg",',
    '{"id":"a"},',
  ],
];

const data = {
  title: 'tide',
  n: 7,
  a: [
    { b: 'x', last: false },
    { b: 'y', last: true },
  ],
  sounds: Array.from({ length: 40 }, (_, i) => ({ path: `s${i}.ogg`, name: `s${i}`, bytes: i })),
};

/** A text of a kind as it might be: it is read, and it is filled as a template. */
function ofKind(id: TextId, text: string): TextSeed {
  const kind = textKind(id);
  return {
    whole: encodeText(text),
    pieces: MARKS,
    take(bytes) {
      const found = decodeText(bytes);
      kind.problems(found);
      filledTemplate(found, data, kind, false);
      filledTemplate(`${found}"{{title}}"`, data, kind, true);
    },
  };
}

const calls = Array.from({ length: 12 }, (_, i) => ({
  id: `call_${i}`,
  variants: [{ path: `s${i}.ogg`, odds: 1 }],
  levelDb: -1,
  pitch: [0.9, 1.1] as [number, number],
  read: 'whole' as const,
}));
const paths = calls.map(({ variants }) => variants[0]!.path);

function modOf(isle: Uint8Array, index: Uint8Array): Promise<unknown> {
  const files = [
    heldFile('isle.json', isle),
    heldFile('calls.json', index),
    heldFile('icon.png', drawnIcon('Isle', 128)),
  ];
  return rehearse(hostById('mod'), { name: 'isle.zip', form: 'zip', files });
}

const isle = encodeText(
  '{ "title": "Isle", "edition": 3, "author": "A keeper", "icon": "icon.png", "calls": "calls.json" }\n',
);
const stage =
  'Isle: what to set in the host\nThe host begins muted.\n\ntide.m4a\n  length: 0:02\n  starts: by nothing yet\n' +
  '  fade: 0.5 s\n  loop: on\n  level: 1\n\nHint on the screen\n  text: Tap\n  comes after: 1 s\n  stays for: 2 s\n';

export const textSeeds: Readonly<Record<string, TextSeed>> = {
  json: ofKind('json', '{ "title": "{{title}}", "list": [1, 2.5, true, null, "a"], "n": {{n}} }\n'),
  yaml: ofKind(
    'yaml',
    'title: "{{title}}"\nlist:\n  - a: 1\n    b: [x, "y"]\n# note\ntext: |\n  two\n  lines\n',
  ),
  xml: ofKind(
    'xml',
    '<?xml version="1.0"?>\n<a b="{{title}}"><!-- x --><c>{{title}}</c><d/></a>\n',
  ),
  html: ofKind(
    'html',
    '<!doctype html><title>{{title}}</title><p class="a">x<br>{{#a}}<a href="{{b}}">y</a>{{/a}}</p>',
  ),
  css: ofKind(
    'css',
    '/* note */ p::before { content: "{{title}}"; color: rgb(1, 2, 3) } @media print { a { b: c } }',
  ),
  c: ofKind(
    'c',
    '/* {{title}} */\n#ifndef A\n#define A "{{title}}"\nstatic const int a[] = { 1, 0x2, 3.5f };\n#endif\n',
  ),
  csv: ofKind('csv', 'a,b\n{{#a}}{{b}},1\n{{/a}}"x, ""y""",2\n'),
  ini: ofKind('ini', '; note\n[one]\na = {{title}}\nb=2\n[two]\na=1\n'),
  text: ofKind('text', '{{title}}\n{{#a}}- {{b}}{{^last}},{{/last}}\n{{/a}}'),
  index: {
    whole: encodeText(callsText(calls)),
    pieces: MARKS,
    take: (bytes) => readIndex(decodeText(bytes), paths),
  },
  brief: {
    whole: encodeText(
      JSON.stringify(briefFile(builtinTexts.find(({ id }) => id === 'game-mod')!), null, 1),
    ),
    pieces: MARKS,
    take(bytes) {
      const { brief } = readBriefFile(decodeText(bytes));
      demandsOf(brief);
      const settings = {};
      packPlan([
        {
          brief,
          project: 'Skerry',
          settings,
          files: [],
          icon: null,
          bytesOf: () => new Uint8Array(),
        },
      ]);
    },
  },
  icon: {
    whole: drawnIcon('Isle', 128),
    pieces: ['IDAT', 'tEXt', '\0\0\0\0'],
    take: (bytes) => plainIcon(bytes, [128]),
  },
  recipe: {
    whole: encodeText('{"version":1,"steps":[{"kind":"gain","on":true,"params":{"gainDb":-3}}]}'),
    pieces: MARKS,
    take(bytes) {
      let read: unknown;
      try {
        read = JSON.parse(decodeText(bytes));
      } catch {
        return;
      }
      parseRecipe(read);
    },
  },
  stage: {
    whole: encodeText(stage),
    pieces: [...MARKS, '  fade: 1 s\n', 'tide.m4a\n'],
    take: (bytes) => readSettings(decodeText(bytes)),
  },
  isle: { whole: isle, pieces: MARKS, take: (bytes) => modOf(bytes, encodeText(callsText(calls))) },
  'calls of a mod': {
    whole: encodeText(callsText(calls)),
    pieces: MARKS,
    take: (bytes) => modOf(isle, bytes),
  },
};

/** Longest text of one mark over and over. */
const MOST_MANY = 400_000;

/**
 * Another text of the same kind, the same for the same seed: many of the same, one in another, pieces that are put in,
 * exchanged, doubled or taken out.
 */
export function otherText(
  { whole, pieces }: TextSeed,
  random: () => number,
): { name: string; bytes: Uint8Array } {
  const text = decodeText(whole);
  const upTo = (n: number) => Math.floor(random() * n);
  const piece = () => pieces[upTo(pieces.length)]!;
  const some = () => Array.from({ length: 1 + upTo(3) }, piece).join('');
  const many = () => {
    const one = some();
    return one.repeat(Math.ceil((20 + random() ** 3 * MOST_MANY) / one.length));
  };
  const at = () => upTo(text.length);
  const ways: Record<string, () => string> = {
    'many of the same': many,
    'many in front': () => many() + text,
    'many in the middle': () => {
      const place = at();
      return text.slice(0, place) + many() + text.slice(place);
    },
    'one in another': () => {
      const [open, close] = [piece(), piece()];
      const times = 1 + upTo(MOST_MANY / (open.length + close.length));
      return open.repeat(times) + text + close.repeat(times);
    },
    'pieces put in': () => {
      let other = text;
      for (let n = 1 + upTo(12); n > 0; n--) {
        const place = upTo(other.length);
        other = other.slice(0, place) + piece() + other.slice(place + upTo(2));
      }
      return other;
    },
    'taken out': () => {
      const place = at();
      return text.slice(0, place) + text.slice(place + 1 + upTo(20));
    },
    doubled: () => {
      const place = at();
      const part = text.slice(place, place + 1 + upTo(60));
      return (
        text.slice(0, place) + part.repeat(1 + upTo(MOST_MANY / part.length)) + text.slice(place)
      );
    },
  };
  const names = Object.keys(ways);
  const name = names[upTo(names.length)]!;
  return { name, bytes: encodeText(ways[name]!()) };
}
