import { unmeasured } from '@/core/measure/probe';
import fc from 'fast-check';
import { keptOfSource, withKept } from '@/core/recipe/kept';
import { pan, rulerMarks, zoom } from '@/ui/shape/view';
import { builtinBriefs as briefs } from '@/core/brief/builtin';
import { versionsOf } from '@/ui/strip/versions';
import { drawLane, overlay } from '@/ui/waveform/draw';
import { outlineOf, PICTURE_UNITS } from '@/ui/waveform/outline';
import type { Output, PackLine, Sound } from '@/wire';

const sound: Sound = {
  id: 7,
  projectId: 1,
  name: 'bell',
  fileName: 'bell.wav',
  sourceSha256: 'f'.repeat(64),
  recipe: { version: 1, steps: [] },
  state: 'ready',
  error: null,
  addedAt: '',
  removedAt: null,
  bytes: 100,
  warnings: [],
  raw: null,
  worries: [],
  seam: null,
  recipeProblem: null,
  outcome: null,
  group: '',
  labels: [],
  language: null,
  note: '',
  folder: '',
  replaces: null,
  tempo: null,
  join: null,
  joined: null,
  revision: 1,
  facts: {
    ...unmeasured,
    container: 'wav',
    codec: 'pcm',
    sampleRateHz: 48_000,
    channels: 2,
    bitDepth: 16,
    frames: 96_000,
    seconds: 2,
    bytes: 100,
    bitRateKbps: 1,
    peakDbfs: 0,
    rmsDbfs: 0,
    correlation: 0,
  },
};

describe('what the waveform shows', () => {
  const views = fc
    .record({ frames: fc.integer({ min: 24, max: 200_000_000 }), a: fc.nat(), b: fc.nat() })
    .map(({ frames, a, b }) => {
      const length = 24 + (a % Math.max(1, frames - 23));
      const start = b % (frames - length + 1);
      return { frames, view: { start, end: start + length } };
    });

  test('zooming and moving never leave the sound, and keep the frame under the pointer', () => {
    fc.assert(
      fc.property(
        views,
        fc.double({ min: 0.05, max: 20, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        ({ frames, view }, factor, share) => {
          const around = view.start + share * (view.end - view.start);
          const next = zoom(view, frames, factor, around);
          expect(next.start).toBeGreaterThanOrEqual(0);
          expect(next.end).toBeLessThanOrEqual(frames);
          expect(next.end - next.start).toBeGreaterThanOrEqual(Math.min(24, frames));
          if (next.start > 0 && next.end < frames) {
            const place = next.start + share * (next.end - next.start);
            expect(Math.abs(place - around)).toBeLessThan(2);
          }
          const moved = pan(view, frames, (share - 0.5) * frames);
          expect(moved.end - moved.start).toBe(view.end - view.start);
          expect(moved.start).toBeGreaterThanOrEqual(0);
          expect(moved.end).toBeLessThanOrEqual(frames);
        },
      ),
    );
  });

  test('the ruler has a bearable number of marks, inside the view, in order', () => {
    fc.assert(
      fc.property(
        views,
        fc.constantFrom(8_000, 44_100, 48_000, 96_000),
        fc.integer({ min: 200, max: 2_000 }),
        ({ view }, rateHz, width) => {
          const marks = rulerMarks(view, rateHz, width);
          expect(marks.length).toBeLessThan(width / 40);
          marks.forEach(({ frame }, i) => {
            expect(frame).toBeGreaterThanOrEqual(view.start);
            expect(frame).toBeLessThanOrEqual(view.end);
            if (i > 0) expect(frame).toBeGreaterThan(marks[i - 1]!.frame);
          });
          expect(new Set(marks.map(({ label }) => label)).size).toBe(marks.length);
        },
      ),
    );
  });

  test('small pictures hold the extremes of all channels', () => {
    expect(
      overlay([
        [-0.1, 0.5, 0.2],
        [-0.7, 0.1, 0.3],
      ]),
    ).toEqual([-0.7, 0.5, 0.3]);
    expect(overlay([])).toEqual([]);
  });

  test('outlines go once there and back, inside the picture, and are never too thin to be seen', () => {
    const column = fc.tuple(
      fc.double({ min: -1, max: 1, noNaN: true }),
      fc.double({ min: 0, max: 1, noNaN: true }),
      fc.double({ min: 0, max: 1, noNaN: true }),
    );
    fc.assert(
      fc.property(fc.array(column, { minLength: 1, maxLength: 176 }), (list) => {
        const data = list.flatMap(([min, up, rms]) => [min, min + (1 - min) * up, rms]);
        const outline = outlineOf(data);
        expect(outline.columns).toBe(list.length);
        for (const path of [outline.wave, outline.body]) {
          const places = [...path.matchAll(/V(-?\d+)H(\d+)/g)].map(([, y, x]) => [
            Number(y),
            Number(x),
          ]);
          const right = list.map((_, i) => i + 1);
          expect(places.map(([, x]) => x)).toEqual([...right, ...list.map((_, i) => i).reverse()]);
          for (let i = 0; i < list.length; i++) {
            const [top, bottom] = [places[i]![0]!, places.at(-1 - i)![0]!];
            expect(bottom - top).toBeGreaterThanOrEqual(2);
            expect(top).toBeGreaterThanOrEqual(0);
            expect(bottom).toBeLessThanOrEqual(PICTURE_UNITS);
          }
        }
      }),
    );
  });

  test('single frames are drawn as points when there is room', () => {
    const calls: string[] = [];
    const context = new Proxy({} as CanvasRenderingContext2D, {
      get: (_, name) => () => calls.push(String(name)),
      set: () => true,
    });
    const ink = {
      wave: '',
      body: '',
      axis: '',
      cut: '',
      tint: '',
      quiet: '',
      paper: '',
      jewel: '',
      warning: '',
    };
    const view = { start: 0, end: 10 };
    const lane = { data: new Array<number>(30).fill(0.5), covers: view, view, top: 0, height: 50 };
    drawLane(context, { ...lane, width: 1_000 }, ink);
    expect(calls.filter((name) => name === 'arc')).toHaveLength(10);
    calls.length = 0;
    drawLane(context, { ...lane, width: 30 }, ink);
    expect(calls).not.toContain('arc');
    expect(calls).toContain('lineTo');
  });
});

describe('the kept part', () => {
  const keep = (startFrame: number, endFrame: number) => ({
    kind: 'keep',
    on: true,
    params: { startFrame, endFrame },
  });
  const mono = { kind: 'channels', on: true, params: { mode: 'left' } };

  test('goes into the recipe in front, is changed there, and all of it needs no step', () => {
    const recipe = withKept(sound.recipe, 10, 500, 96_000);
    expect(recipe.steps).toEqual([keep(10, 500)]);
    expect(withKept(recipe, 20, 600, 96_000).steps).toEqual([keep(20, 600)]);
    expect(withKept(recipe, 0, 96_000, 96_000).steps).toEqual([]);
    expect(withKept(sound.recipe, 0, 96_000, 96_000)).toBe(sound.recipe);
  });

  test('other steps stay behind it, also those that keep a part of what they were given', () => {
    const recipe = withKept({ version: 1, steps: [mono, keep(5, 9)] }, 1, 20, 96_000);
    expect(recipe.steps).toEqual([keep(1, 20), mono, keep(5, 9)]);
    expect(keptOfSource(recipe.steps)).toBe(recipe.steps[0]);
    expect(keptOfSource([mono, keep(5, 9)])).toBeUndefined();
  });
});

test('versions know where they lie in the source, and only what is up to date can be heard', () => {
  const recipe = withKept(sound.recipe, 24_000, 72_000, 96_000);
  const output = {
    id: 3,
    name: 'bell.m4a',
    upToDate: true,
    verification: { facts: { ...sound.facts!, sampleRateHz: 44_100, channels: 1, frames: 44_100 } },
  } as unknown as Output;
  const line = (upToDate: boolean) =>
    ({
      assignment: { soundId: 7, briefId: 'ar-filter' },
      outputs: [{ ...output, upToDate }],
    }) as unknown as PackLine;
  const versions = versionsOf({ ...sound, recipe }, { lines: [line(true)], briefs });
  expect(
    versions.map(({ label, frames, rateHz, toSource, fromSource }) => [
      label,
      frames,
      rateHz,
      toSource(4_410),
      fromSource(48_000),
    ]),
  ).toEqual([
    ['Source', 96_000, 48_000, 4_410, 48_000],
    ['Shaped', 48_000, 48_000, 28_410, 24_000],
    ['AR filter · M4A', 44_100, 44_100, 28_800, 22_050],
  ]);
  // What was cut away is heard from the nearest that was kept.
  expect(versions[1]!.fromSource(0)).toBeLessThan(100);
  expect(versionsOf(sound, { lines: [line(false)], briefs }).map(({ label }) => label)).toEqual([
    'Source',
  ]);
  expect(versionsOf({ ...sound, facts: null }, { lines: [], briefs })).toEqual([]);
});
