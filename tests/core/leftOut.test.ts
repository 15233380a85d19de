import { briefSchema } from '@/core/brief/schema';
import { builtinTexts } from '@/core/brief/builtin';
import { demandsOf } from '@/core/brief/demands';
import { briefFile, readBriefFile } from '@/core/brief/exchange';
import { layoutDemands } from '@/core/brief/layoutDemands';
import { allowedBy } from '@/core/compare/candidates/allowed';
import { candidateSetSchema } from '@/app/api/fields';
import { planTrial } from '@/core/compare/plan';
import { BijouError } from '@/core/errors';
import { emptyRecipe } from '@/core/recipe/types';
import { callsText } from '@/core/pack/calls/calls';
import { readIndex } from '@/core/pack/calls/readIndex';
import { packPlan } from '@/core/pack/plan';
import { readSettings, settingsText } from '@/core/host/filter/settings';
import { parseRecipe } from '@/core/recipe/recipe';
import { part, partFile } from './pack/making';

/** Every field of a file is left out once, and once it is of each other type. */

const others: unknown[] = [
  null,
  'x',
  '',
  -1,
  1.5,
  1e99,
  true,
  [],
  {},
  [null],
  { a: { b: 1 } },
  [[[]]],
];

/** Copies of some data in each of which one thing is other. */
function* altered(
  data: unknown,
  path: (string | number)[] = [],
): Generator<{ what: string; data: unknown }> {
  if (typeof data !== 'object' || data === null) return;
  for (const key of Object.keys(data)) {
    const at = [...path, key];
    const other = (change: (owner: Record<string, unknown>) => void) => {
      const copy = structuredClone(data) as Record<string, unknown>;
      change(copy);
      return copy;
    };
    yield { what: `${at.join('.')} left out`, data: other((owner) => delete owner[key]) };
    for (const value of others) {
      yield {
        what: `${at.join('.')} ${JSON.stringify(value)}`,
        data: other((owner) => (owner[key] = value)),
      };
    }
    for (const { what, data: inner } of altered((data as Record<string, unknown>)[key], at)) {
      yield { what, data: other((owner) => (owner[key] = inner)) };
    }
  }
}

/** Either it is refused in words, or everything that is done with it can be done. */
function judged(what: string, take: () => unknown): void {
  try {
    take();
  } catch (error) {
    if (error instanceof BijouError && error.code !== 'internal' && error.message !== '') return;
    throw new Error(`${what}: ${String((error as Error)?.stack ?? error)}`, { cause: error });
  }
}

const whole = {
  ...builtinTexts.find(({ id }) => id === 'game-mod')!,
  level: { peakDbtp: -1, by: 'all', lufs: -16, toleranceLu: 2, isFixed: false },
  tags: { keep: ['title'], set: { album: '{group}' } },
  languages: ['en'],
  names: { case: 'lower', pattern: '{name}_{language}' },
  leastSeconds: 0.1,
  mostBytes: 1_000_000,
  mostTotalBytes: 9_000_000,
};

test('a brief with any field left out or of another type is refused at it, or works', () => {
  const known = Object.keys(briefSchema.fields);
  let taken = 0;
  for (const { what, data } of altered(briefFile(whole as never))) {
    judged(what, () => {
      const { brief } = readBriefFile(JSON.stringify(data));
      taken++;
      demandsOf(brief);
      layoutDemands(brief);
      allowedBy(brief);
      packPlan([part(brief, [partFile(1, 'gull.ogg'), partFile(2, 'surf.ogg')])]);
      expect(brief.notes).toBeInstanceOf(Array);
    });
  }
  expect(known).toContain('notes');
  // Some of it may well be left out.
  expect(taken).toBeGreaterThan(20);
});

test('a set of candidates with any field left out or of another type is refused, or each can be planned', () => {
  const set = {
    name: 'Mine',
    candidates: [
      { writer: 'ogg', settings: { quality: 3 }, rateHz: 44_100, channels: 'mix' },
      { writer: 'mp3', settings: { bitrateKbps: 128 } },
    ],
  };
  const { made } = partFile(1, 'gull.ogg');
  const facts = {
    ...made,
    frames: 88_200,
    sampleRateHz: 44_100,
    channels: 1,
    bitDepth: 16,
    markers: [],
    tags: {},
    loop: null,
  };
  for (const { what, data } of altered(set)) {
    judged(what, () => {
      let read: typeof set;
      try {
        read = candidateSetSchema.validateSync(data, { strict: true }) as typeof set;
      } catch (error) {
        if ((error as Error).name === 'ValidationError') return;
        throw error;
      }
      for (const candidate of read.candidates) {
        planTrial(
          { sourceSha256: '', facts: facts as never, recipe: emptyRecipe },
          candidate as never,
        );
      }
    });
  }
});

test('a brief without notes is taken in, and is one with none', () => {
  const text = JSON.stringify({ ...whole, notes: undefined });
  expect(JSON.parse(text)).not.toHaveProperty('notes');
  expect(readBriefFile(text).brief.notes).toEqual([]);
});

test('fields that all objects have are named like any that is not known', () => {
  const text = JSON.stringify({ ...whole, constructor: 1, toString: 2 }).replace(
    '{',
    '{"__proto__": 3,',
  );
  expect(readBriefFile(text).unknown.sort()).toEqual(['__proto__', 'constructor', 'toString']);
});

test('an index with any field left out or of another type is read, and what is wrong is said', () => {
  const calls = [
    {
      id: 'gull',
      variants: [{ path: 'gull.ogg', odds: 1 }],
      levelDb: 0,
      pitch: [1, 1] as [number, number],
      read: 'whole' as const,
    },
    {
      id: 'surf',
      variants: [{ path: 'surf.ogg', odds: 2 }],
      levelDb: 1,
      pitch: [1, 2] as [number, number],
      read: 'piecewise' as const,
    },
  ];
  for (const { what, data } of altered(JSON.parse(callsText(calls)))) {
    judged(what, () => {
      const report = readIndex(JSON.stringify(data), ['gull.ogg', 'surf.ogg']);
      if (report.index && report.problems.length === 0) callsText(report.index);
    });
  }
});

test('settings of the stage with any line left out or other are read', () => {
  const text = settingsText('Isle', [{ path: 'a.ogg', seconds: 1 }], {
    sounds: {},
    hint: { text: 'Tap', from: 1, seconds: 2 },
  });
  const lines = text.split('\n');
  const variants = [
    '',
    ':',
    '  :',
    '   : :',
    `${' '.repeat(50_000)}x`,
    '  fade: x',
    '  __proto__: on',
    '__proto__',
    '  loop:',
  ];
  for (let i = 0; i < lines.length; i++) {
    for (const line of [null, ...variants]) {
      const other = lines.flatMap((one, at) => (at !== i ? [one] : line === null ? [] : [line]));
      judged(`line ${i} ${String(line).slice(0, 20)}`, () => {
        const { choices } = readSettings(other.join('\n'));
        settingsText('Isle', [{ path: 'a.ogg', seconds: 1 }], choices);
      });
    }
  }
  const begun = performance.now();
  readSettings(`a\nb\n${' '.repeat(1_000_000)}x`);
  expect(performance.now() - begun).toBeLessThan(5_000);
});

test('a recipe with any field left out or of another type is refused, or is one', () => {
  const recipe = {
    version: 1,
    steps: [
      { kind: 'gain', on: true, params: { gainDb: -3 } },
      { kind: 'keep', on: true, params: { startFrame: 0, endFrame: 9 } },
      { kind: 'fade-in', on: false, params: { frames: 5, shape: 'linear' } },
    ],
  };
  for (const { what, data } of altered(recipe)) judged(what, () => parseRecipe(data));
});
