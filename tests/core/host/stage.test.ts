import fc from 'fast-check';
import {
  acts,
  triggerIds,
  untouched,
  usualChoice,
  type Act,
  type SoundChoice,
  type StageChoices,
} from '@/core/host/filter/choices';
import { foretold } from '@/core/host/filter/foretold';
import { readSettings, settingsText } from '@/core/host/filter/settings';
import { performed, silentStage, triggered } from '@/core/host/filter/stage';

const bell = { file: 'bell.m4a', seconds: 2 };

function onTap(act: Act, more: Partial<SoundChoice> = {}): SoundChoice {
  return { ...untouched, acts: { ...untouched.acts, tap: act }, ...more };
}

const tap = (at: number) => ({ trigger: 'tap' as const, at });
const opened = { trigger: 'opened' as const, at: 0 };

describe('what the second tap does', () => {
  const ran = (act: Act, more: Partial<SoundChoice> = {}) =>
    performed(
      [bell],
      { sounds: { 'bell.m4a': onTap(act, more) } },
      [opened, tap(1), tap(2), tap(5)],
      10,
    ).stretches.map(({ from, to }) => [from, to]);

  test('“starts or stops” stops it; “starts it over” begins again; “once” leaves it alone', () => {
    expect(ran('startOrStop')).toEqual([
      [1, 2],
      [5, 7],
    ]);
    expect(ran('startOver')).toEqual([
      [1, 2],
      [2, 4],
      [5, 7],
    ]);
    expect(ran('startOnce')).toEqual([
      [1, 3],
      [5, 7],
    ]);
    expect(ran('stop')).toEqual([]);
  });

  test('what repeats runs until something stops it', () => {
    expect(ran('startOrStop', { isLoop: true })).toEqual([
      [1, 2],
      [5, 10],
    ]);
    expect(ran('startOnce', { isLoop: true })).toEqual([[1, 10]]);
  });

  test('is foretold in words, also where a sound has run unheard before', () => {
    const texts = (choice: SoundChoice) => foretold(bell, choice).map(({ text }) => text);
    expect(texts(onTap('startOrStop'))).toEqual(['stays silent', 'begins', 'stops', 'begins']);
    expect(texts(onTap('startOver'))).toEqual([
      ...['stays silent', 'begins', 'begins again from its start', 'begins again from its start'],
    ]);
    expect(texts(onTap('startOnce'))).toEqual(['stays silent', 'begins', 'goes on', 'goes on']);
    const early = onTap('startOrStop');
    expect(texts({ ...early, acts: { ...early.acts, opened: 'startOnce' } })).toEqual([
      ...['begins, but nobody hears it yet', 'stops before anybody has heard it'],
      ...['begins', 'stops'],
    ]);
    expect(texts({ ...untouched, acts: { ...untouched.acts, opened: 'startOnce' } })[1]).toBe(
      'is heard, from where it has come to',
    );
  });
});

test('opening the filter again stops everything and mutes it', () => {
  const choices = { sounds: { 'bell.m4a': onTap('startOrStop', { isLoop: true }) } };
  const first = triggered(silentStage, [bell], choices, tap(1));
  expect(first.state).toEqual({ running: { 'bell.m4a': 1 }, heardFrom: 1 });
  const again = triggered(first.state, [bell], choices, { trigger: 'opened', at: 3 });
  expect(again).toEqual({
    state: { running: {}, heardFrom: null },
    orders: [{ file: 'bell.m4a', at: 3, does: 'stop' }],
  });
});

const act = fc.constantFrom(...(Object.keys(acts) as Act[]));
const choice: fc.Arbitrary<SoundChoice> = fc.record({
  acts: fc.record(Object.fromEntries(triggerIds.map((id) => [id, act]))) as fc.Arbitrary<
    SoundChoice['acts']
  >,
  fade: fc.integer({ min: 0, max: 1_000 }).map((hundredths) => hundredths / 100),
  isLoop: fc.boolean(),
  level: fc.integer({ min: 0, max: 100 }),
});

test('stretches of a sound never overlap, and none is longer than the sound unless it repeats', () => {
  const event = fc.record({
    trigger: fc.constantFrom(...triggerIds),
    at: fc.double({ min: 0, max: 20, noNaN: true }),
  });
  fc.assert(
    fc.property(choice, fc.array(event, { maxLength: 12 }), (one, events) => {
      const { stretches } = performed([bell], { sounds: { 'bell.m4a': one } }, events, 20);
      stretches.forEach(({ from, to }, i) => {
        expect(to).toBeGreaterThan(from);
        if (!one.isLoop) expect(to - from).toBeLessThanOrEqual(2 + 1e-9);
        if (i > 0) expect(from).toBeGreaterThanOrEqual(stretches[i - 1]!.to);
      });
    }),
  );
});

describe('the list of what to set', () => {
  const path = fc
    .stringMatching(/^[a-zA-Z0-9_é' ()-]{1,30}$/)
    .filter((name) => name.trim() === name && name !== 'Hint on the screen')
    .map((name) => `${name}.m4a`);
  const text = fc.string({ maxLength: 40 }).map((raw) => raw.replace(/\s+/g, ' ').trim());

  test('is read as it was written, whatever was chosen', () => {
    fc.assert(
      fc.property(fc.dictionary(path, choice, { maxKeys: 5 }), text, (sounds, hint) => {
        const choices: StageChoices = { sounds, hint: { text: hint, from: 1.25, seconds: 3 } };
        const listed = Object.keys(sounds).map((one) => ({ path: one, seconds: 2 }));
        const read = readSettings(settingsText('Storm: “one”', listed, choices));
        expect(read).toEqual({ choices: { ...choices, sounds: { ...sounds } }, problems: [] });
      }),
    );
  });

  test('says which lines it does not understand, and takes the rest', () => {
    const written = settingsText('Storm', [{ path: 'bell.m4a', seconds: 2 }], {
      sounds: { 'bell.m4a': usualChoice(0, { loop: null }) },
      hint: { text: 'Tap', from: 0, seconds: 2 },
    });
    const changed = written.replace('level: 100', 'level: loud').replace('loop: off', 'loop: on');
    const { choices, problems } = readSettings(changed);
    expect(problems).toEqual([expect.stringContaining('level: loud')]);
    expect(choices.sounds['bell.m4a']).toMatchObject({
      isLoop: true,
      acts: { tap: 'startOrStop' },
    });
  });

  test('of any other text is taken what can be, and nothing breaks', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 400 }), (any) => {
        const { choices } = readSettings(`x\ny\n__proto__\n  level: 5\n${any}`);
        expect(({} as Record<string, unknown>)['level']).toBeUndefined();
        expect(choices.hint.seconds).toBeLessThanOrEqual(60);
      }),
    );
  });
});
