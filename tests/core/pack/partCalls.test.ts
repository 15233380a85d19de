import type { Call } from '@/core/pack/calls/calls';
import { allowedCharacters } from '@/core/pack/characters';
import {
  callTroubles,
  namedSounds,
  resolvedCalls,
  usesCalls,
  usualCalls,
} from '@/core/pack/partCalls';
import { briefWith, part, partFile } from './making';

const isId = allowedCharacters('a-z0-9_/-');
const call = (id: string, ...soundIds: number[]): Call => ({
  ...{ id, levelDb: 0, pitch: [1, 1], read: 'whole' },
  variants: soundIds.map((soundId) => ({ soundId, odds: 2 })),
});
const sound = (soundId: number, name: string, group = '') => ({
  ...partFile(soundId, `${name}.ogg`),
  ...{ name, group },
});

test('a pack has calls where its layout, a manifest or a template asks for them', () => {
  const text = (more: object) => briefWith({ texts: [{ path: 'a.json', ...more }] });
  expect(usesCalls(briefWith({}))).toBe(false);
  expect(usesCalls({})).toBe(false);
  expect(usesCalls(briefWith({ texts: [] }))).toBe(false);
  expect(usesCalls(briefWith({ calls: { way: 'each' } }))).toBe(true);
  expect(usesCalls(text({ manifest: 'calls' }))).toBe(true);
  expect(usesCalls(text({ manifest: 'asset-list' }))).toBe(false);
  expect(usesCalls(text({ is: 'text', template: '{{#calls}}{{id}}{{/calls}}' }))).toBe(true);
  expect(usesCalls(text({ is: 'text', template: '{{title}}' }))).toBe(false);
  const both = briefWith({
    texts: [
      { path: 'a.txt', is: 'text', template: 'nothing' },
      { path: 'b.json', manifest: 'calls' },
    ],
  });
  expect(usesCalls(both)).toBe(true);
});

test('sounds are listed by group and name, whatever their case', () => {
  const files = [
    sound(1, 'surf', 'Sea'),
    sound(2, 'Bell'),
    sound(3, 'anchor', 'sea'),
    sound(4, 'arc'),
  ];
  expect(namedSounds(files).map(({ id, name }) => [id, name])).toEqual([
    [4, 'arc'],
    [2, 'Bell'],
    [3, 'anchor'],
    [1, 'surf'],
  ]);
});

test('usual calls are made in the way that the layout names, and only where they are asked for', () => {
  const files = [sound(2, 'gull_2'), sound(1, 'gull_1')];
  const ids = (layout: Parameters<typeof briefWith>[0]) =>
    usualCalls(part(briefWith(layout), files), isId).map(({ id, variants }) => [
      id,
      variants.map(({ soundId }) => soundId),
    ]);
  expect(ids({})).toEqual([]);
  expect(ids({ texts: [{ path: 'c.json', manifest: 'calls' }] })).toEqual([['gull', [1, 2]]]);
  expect(ids({ calls: { way: 'each' } })).toEqual([
    ['gull_1', [1]],
    ['gull_2', [2]],
  ]);
});

test('the first file of a sound is played; who is not here is left out', () => {
  const files = [partFile(1, 'a.ogg'), partFile(1, 'a.mp3'), partFile(2, 'b.ogg')];
  expect(resolvedCalls([call('x', 1, 9, 2), call('y', 9)], files)).toEqual([
    {
      ...call('x'),
      variants: [
        { path: 'a.ogg', odds: 2 },
        { path: 'b.ogg', odds: 2 },
      ],
    },
    { ...call('y'), variants: [] },
  ]);
});

test('what a game would stumble over is told with its call and its sound', () => {
  const files = [sound(1, 'gull'), sound(2, 'surf'), { ...sound(3, 'bell'), slots: ['bell.ogg'] }];
  const told = (...calls: Call[]) =>
    callTroubles(calls, files, isId).map(({ weight, message, call: at, soundId }) => ({
      ...{ weight, message, call: at, soundId },
    }));
  expect(told(call('gull', 1), call('surf', 2))).toEqual([]);
  // What fills a slot is found without a call.
  expect(told(call('gull', 1))).toEqual([
    { weight: 'note', message: 'No call plays “surf”.', call: undefined, soundId: 2 },
  ]);
  const [lost, ...more] = told(call('gull', 1, 2), call('far', 1, 8));
  expect(lost).toMatchObject({ weight: 'wrong', call: 1, soundId: 8 });
  expect(lost!.message).toContain('“far” does not go here any more');
  expect(more).toEqual([]);
  const [bad] = told(call('gull', 1, 2), call('Ä', 1));
  expect(bad).toMatchObject({ weight: 'wrong', call: 1 });
  const many = Array.from({ length: 20_001 }, (_, i) => call(`c${i}`, 1, 2));
  const [most] = callTroubles(many, files, isId);
  expect(most!.message).toContain('the most are 20,000');
  expect('call' in most!).toBe(false);
});
