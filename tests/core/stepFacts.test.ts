import { usualMask } from '@/core/pcm/speakers';
import { shapeAfter } from '@/core/recipe/recipe';
import { stepKinds } from '@/core/recipe/steps';
import type { Recipe, Shape, Step, StepKind } from '@/core/recipe/types';
import { step } from './files';

const mono: Shape = { rateHz: 8_000, channelCount: 1, frames: 8_000 };
const shapes = {
  mono,
  stereo: { ...mono, channelCount: 2 },
  film: { ...mono, channelCount: 6 },
  cd: { ...mono, rateHz: 44_100, channelCount: 2, frames: 44_100 },
  tiny: { ...mono, frames: 4 },
};
const recipe = (...steps: Step[]): Recipe => ({ version: 1, steps });
const kind = (name: string) => stepKinds.find((one) => one.kind === name)!;

const spanOf = (startFrame: number, endFrame: number) => ({
  startFrame,
  endFrame,
  introFrames: 0,
  tailFrames: 0,
});

test.each<[string, Record<string, unknown>, keyof typeof shapes, string]>([
  ['keep', { startFrame: 800, endFrame: 4_000 }, 'mono', 'keep 0:00.100 to 0:00.500'],
  ['cut', { startFrame: 800, endFrame: 4_000 }, 'mono', 'cut out 0:00.100 to 0:00.500'],
  ['blank', { startFrame: 0, endFrame: 8_000 }, 'mono', 'make 0:00.000 to 0:01.000 silent'],
  ['silence', { atFrame: 4_000, frames: 800 }, 'mono', 'insert 0:00.100 of silence at 0:00.500'],
  [
    'pad',
    { headFrames: 800, tailFrames: 4_000 },
    'mono',
    'put 0:00.100 of silence in front and 0:00.500 behind',
  ],
  ['fade-in', { frames: 800, shape: 's' }, 'mono', 'fade in over 0:00.100, S'],
  ['fade-out', { frames: 80, shape: 'equal-power' }, 'mono', 'fade out over 0:00.010, equal power'],
  ['normalise', { to: 'lufs', target: -16 }, 'mono', 'normalise the loudness to −16 LUFS'],
  [
    'normalise',
    { to: 'peak', target: -3, ceilingDbtp: -1 },
    'mono',
    'normalise the peak to −3 dBFS, at most −1 dBTP',
  ],
  ['channels', { mode: 'left' }, 'stereo', 'keep the left channel'],
  ['channels', { mode: 'right' }, 'stereo', 'keep the right channel'],
  ['channels', { mode: 'mix' }, 'stereo', 'mix both channels to mono'],
  ['channels', { mode: 'mix' }, 'film', 'mix 5.1 down to mono'],
  ['channels', { mode: 'stereo' }, 'mono', 'copy mono to both channels'],
  ['channels', { mode: 'stereo' }, 'film', 'mix 5.1 down to stereo'],
  ['channels', { mode: 'swap' }, 'stereo', 'exchange left and right'],
  ['channels', { mode: 'keep' }, 'film', 'keep channel 1'],
  ['channels', { mode: 'keep', channel: 4 }, 'film', 'keep channel 4'],
  [
    'relabel',
    { rateHz: 4_000 },
    'mono',
    'correct the rate from 8 kHz to 4 kHz: it plays 2.00 × as long',
  ],
  ['speed', { factor: 1.25 }, 'mono', 'play 1.25 × as fast, the pitch along with it'],
  [
    'loop',
    { startFrame: 0, endFrame: 4_000, introFrames: 0, tailFrames: 0 },
    'mono',
    'loop 0:00.000 to 0:00.500 (4,000 frames)',
  ],
  [
    'loop',
    { startFrame: 800, endFrame: 4_000, introFrames: 800, tailFrames: 80 },
    'mono',
    'loop 0:00.100 to 0:00.500 (3,200 frames), intro of 0:00.100, tail of 0:00.010',
  ],
  [
    'loop',
    { ...spanOf(800, 4_000), seam: 'crossfade', crossfadeFrames: 400, curve: 'linear' },
    'mono',
    'loop 0:00.100 to 0:00.500 (3,200 frames), crossfade of 0:00.050, linear',
  ],
  [
    'loop',
    { ...spanOf(800, 4_000), tailFrames: 80, seam: 'tail', tailDb: -3 },
    'mono',
    'loop 0:00.100 to 0:00.500 (3,200 frames), tail of 0:00.010, ' +
      'the tail under every repeat at −3 dB, which lies behind the first pass',
  ],
  [
    'repeat',
    { startFrame: 0, endFrame: 800, times: 3 },
    'mono',
    'play 0:00.000 to 0:00.100 3 times',
  ],
  [
    'unroll',
    { startFrame: 0, endFrame: 800 },
    'mono',
    'unroll 0:00.000 to 0:00.100, which runs back and forth',
  ],
])('%s of %j in a %s sound is said', (name, params, shape, sentence) => {
  expect(kind(name).describe(params, shapes[shape])).toBe(sentence);
});

test.each<[string, keyof typeof shapes, Record<string, unknown>]>([
  ['keep', 'mono', { startFrame: 0, endFrame: 8_000 }],
  ['cut', 'mono', { startFrame: 0, endFrame: 800, crossfadeFrames: 40 }],
  ['blank', 'mono', { startFrame: 0, endFrame: 800 }],
  ['blank', 'tiny', { startFrame: 0, endFrame: 1 }],
  ['silence', 'mono', { atFrame: 0, frames: 4_000 }],
  ['pad', 'mono', { headFrames: 0, tailFrames: 4_000 }],
  ['fade-in', 'mono', { frames: 80, shape: 'linear' }],
  ['fade-out', 'tiny', { frames: 4, shape: 'linear' }],
  ['gain', 'mono', { gainDb: -3 }],
  ['normalise', 'mono', { to: 'true-peak', target: -1 }],
  ['channels', 'mono', { mode: 'stereo' }],
  ['channels', 'stereo', { mode: 'mix' }],
  ['relabel', 'cd', { rateHz: 22_050 }],
  ['relabel', 'mono', { rateHz: 4_000 }],
  ['resample', 'cd', { rateHz: 48_000 }],
  ['resample', 'mono', { rateHz: 44_100 }],
  ['speed', 'mono', { factor: 1.1 }],
  [
    'loop',
    'mono',
    {
      ...spanOf(0, 8_000),
      ...{ seam: 'cut', crossfadeFrames: 0, curve: 'equal-power', tailDb: 0 },
    },
  ],
  ['repeat', 'mono', { startFrame: 0, endFrame: 800, times: 2 }],
  ['unroll', 'stereo', { startFrame: 0, endFrame: 8_000 }],
])('a new %s of a %s sound begins so', (name, shape, params) => {
  expect(kind(name).defaults(shapes[shape])).toEqual(params);
});

test('the lowest rate is the lowest that can be meant', () => {
  expect(kind('relabel').defaults({ ...mono, rateHz: 1_500 })).toEqual({ rateHz: 1_000 });
});

describe('at the edges', () => {
  const after =
    (name: string, params: Record<string, unknown>, before = mono) =>
    () =>
      shapeAfter(recipe(step(name, params)), before).frames;
  test('what just fits is done, one frame more is refused', () => {
    expect(after('fade-in', { frames: 8_000, shape: 's' })()).toBe(8_000);
    expect(after('fade-in', { frames: 8_001, shape: 's' })).toThrow(
      'The fade is longer (0:01.000) than the sound (0:01.000).',
    );
    expect(after('silence', { atFrame: 8_000, frames: 1 })()).toBe(8_001);
    expect(after('silence', { atFrame: 8_001, frames: 1 })).toThrow(
      'at frame 8,001: the sound ends at 8,000',
    );
    expect(after('cut', { startFrame: 0, endFrame: 7_999 })()).toBe(1);
    expect(after('cut', { startFrame: 0, endFrame: 8_000 })).toThrow(/whole sound/);
    expect(after('pad', { headFrames: 0, tailFrames: 1 })()).toBe(8_001);
    expect(after('pad', { headFrames: 0, tailFrames: 0 })).toThrow(/changes nothing/);
    expect(after('keep', { startFrame: 1, endFrame: 8_000 })()).toBe(7_999);
    expect(after('keep', { startFrame: 5, endFrame: 5 })).toThrow(/no length/);
    expect(after('keep', { startFrame: 6, endFrame: 5 })).toThrow(/ends before it begins/);
    expect(after('keep', { startFrame: 0, endFrame: 8_001 })).toThrow(
      /at frame 8,001, the sound at 8,000 \(0:01\.000\)/,
    );
    expect(
      after('loop', { startFrame: 100, endFrame: 7_900, introFrames: 100, tailFrames: 100 })(),
    ).toBe(8_000);
    expect(
      after('loop', { startFrame: 0, endFrame: 4_000, introFrames: 0, tailFrames: 4_001 }),
    ).toThrow('behind the loop: 4,000 frames (0:00.500)');
  });

  test.each<
    [string, Record<string, unknown>, [frame: number, place: number | null, origin: number][]]
  >([
    [
      'keep',
      { startFrame: 10, endFrame: 20 },
      [
        [9, null, 19],
        [10, 0, 20],
        [20, 10, 30],
        [21, null, 31],
      ],
    ],
    [
      'cut',
      { startFrame: 10, endFrame: 20 },
      [
        [9, 9, 9],
        [10, 10, 20],
        [11, null, 21],
        [19, null, 29],
        [20, 10, 30],
      ],
    ],
    [
      'silence',
      { atFrame: 10, frames: 5 },
      [
        [9, 9, 9],
        [10, 15, 10],
        [14, 19, 10],
        [16, 21, 11],
      ],
    ],
    [
      'pad',
      { headFrames: 7, tailFrames: 3 },
      [
        [0, 7, 0],
        [7, 14, 0],
        [8, 15, 1],
        [8_009, 8_016, 8_000],
      ],
    ],
    ['speed', { factor: 2 }, [[10, 5, 20]]],
  ])('%s of %j moves frames there and back', (name, params, moves) => {
    const { place, origin } = kind(name) as Required<Pick<StepKind, 'place' | 'origin'>>;
    for (const [frame, to, from] of moves) {
      expect([frame, place(mono, params)(frame), origin(mono, params)(frame)]).toEqual([
        frame,
        to,
        from,
      ]);
    }
  });

  test('what is blank is so from its first frame to its last', () => {
    const envelope = kind('blank').envelope!(mono, { startFrame: 10, endFrame: 20 });
    expect([9, 10, 19, 20].map(envelope)).toEqual([1, 0, 0, 1]);
  });

  test.each<[string, number, number | null]>([
    ['left', 1, null],
    ['right', 1, null],
    ['mix', 1, null],
    ['stereo', 1, 2],
    ['stereo', 2, null],
    ['stereo', 6, 2],
    ['mix', 2, 1],
    ['left', 2, 1],
    ['swap', 2, 2],
    ['keep', 6, 1],
  ])('channels %s of %i: %s', (mode, channelCount, wanted) => {
    const before = { ...mono, channelCount, speakerMask: usualMask(channelCount) };
    const after = shapeAfter(recipe(step('channels', { mode })), before);
    // Where nothing is mixed, nothing is forgotten of what the speakers are.
    expect(after).toEqual(wanted === null ? before : { ...mono, channelCount: wanted });
  });
  test('one channel has no sides to exchange, and no second', () => {
    expect(() => shapeAfter(recipe(step('channels', { mode: 'swap' })), mono)).toThrow();
    expect(() =>
      shapeAfter(recipe(step('channels', { mode: 'keep', channel: 2 })), mono),
    ).toThrow();
  });
});
