import { withPage } from './page';
import fc from 'fast-check';
import { traceRecipe } from '@/core/recipe/trace';
import { idsOf, pathFor } from '@/ui/shape/chosen';
import { keyed } from '@/ui/shared/lineKeys';
import { parseGap } from '@/ui/shape/join/gap';
import { withEdge } from '@/ui/shape/marking';
import { rulerMarks } from '@/ui/shape/view';
import { matchGain, type Version } from '@/ui/strip/listening';
import { heightOf } from '@/ui/waveform/draw';
import { columnsOf, onTile, type Pictured } from '@/ui/waveform/tiles';
import { step } from '../core/files';
import { noise } from '../core/signals';

test.each([
  ['0', 0],
  ['0.25', 0.25],
  ['-0.5', -0.5],
  ['−0:01.500', -1.5],
  ['4800f', 0.1],
])('the gap %s is %s seconds', (typed, seconds) => {
  expect(parseGap(typed, 48_000)).toBeCloseTo(seconds, 9);
});

test('a gap that is no time is refused', () => {
  for (const typed of ['', '-', '1,5', '--1', 'x']) expect(() => parseGap(typed, 48_000)).toThrow();
});

test('an end of the mark never passes the other, nor the ends of the sound', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 2, max: 10_000 }),
      fc.nat(),
      fc.nat(),
      fc.integer({ min: -20_000, max: 20_000 }),
      fc.constantFrom('start' as const, 'end' as const),
      (frames, a, b, to, edge) => {
        const start = a % (frames - 1);
        const end = start + 1 + (b % (frames - start));
        const mark = withEdge({ start, end: Math.min(frames, end) }, edge, to, frames);
        expect(mark.start).toBeGreaterThanOrEqual(0);
        expect(mark.end).toBeLessThanOrEqual(frames);
        expect(mark.end).toBeGreaterThan(mark.start);
      },
    ),
  );
});

test('louder versions are turned down to the quietest that is known', () => {
  const version = (loudness: number | null) => ({ loudness }) as Version;
  const all = [version(-10), version(-16), version(null)];
  expect(all.map((one) => matchGain(all, one))).toEqual([expect.closeTo(0.501, 3), 1, 1]);
  expect(matchGain([version(-10)], version(-10))).toBe(1);
});

test('sounds that stand in an address come out again; anything else is left out', () => {
  expect(pathFor(3, 'join', [4, 7])).toBe('/p/3/shape/join?sounds=4,7');
  expect(idsOf('4,7,x,-1,0,2.5,1e99')).toEqual([4, 7]);
  expect(idsOf(undefined)).toEqual([]);
});

test('heights in decibels: silence on the axis, full scale at the edge, half of it 6 dB below', () => {
  expect(heightOf(0, 'db')).toBeCloseTo(0);
  expect(heightOf(-1, 'db')).toBe(-1);
  expect(heightOf(2, 'linear')).toBe(1);
  expect(heightOf(0.5, 'db')).toBeCloseTo(1 - 6.02 / 60, 3);
  expect(heightOf(0.0001, 'db')).toBe(0);
});

describe('the ruler', () => {
  const view = { start: 0, end: 480_000 };
  test('counts frames where it is asked to', () => {
    expect(rulerMarks(view, 48_000, 1_100, 'frames')[1]).toEqual({
      frame: 50_000,
      label: '50,000',
    });
  });
  test('counts bars and beats where a tempo is set, and time where none is', () => {
    const tempo = { bpm: 120, beatsPerBar: 4 };
    const labels = (at: typeof view) =>
      rulerMarks(at, 48_000, 1_100, 'bars', tempo).map(({ label }) => label);
    expect(labels(view).slice(0, 3)).toEqual(['1', '2', '3']);
    expect(labels({ start: 0, end: 96_000 }).slice(0, 3)).toEqual(['1', '1+1/2', '1.2']);
    expect(rulerMarks(view, 48_000, 1_100, 'bars', null)[1]!.label).toBe('0:01');
  });
});

describe('pictures out of tiles', () => {
  const frames = 300_000;
  const sound = [noise(frames, 1), noise(frames, 2)];
  const asked: string[] = [];
  let answers = true;

  beforeEach(() => void (asked.length = 0));
  withPage({
    fetch: async (address: string) => {
      asked.push(address);
      if (!answers) throw new Error('gone');
      const query = new URL(address, 'http://127.0.0.1').searchParams;
      const [start, end, count] = ['start', 'end', 'columns'].map((name) =>
        Number(query.get(name)),
      );
      const per = (end! - start!) / count!;
      const columns = sound.flatMap((channel) =>
        Array.from({ length: count! }, (_, i) => {
          const part = channel.subarray(start! + i * per, start! + (i + 1) * per);
          const square = part.reduce((sum, x) => sum + x * x, 0) / Math.max(1, part.length);
          return [Math.min(...part), Math.max(...part), Math.sqrt(square)];
        }),
      );
      return new Response(Float32Array.from(columns.flat()).buffer);
    },
  });

  const pictured = (key: string): Pictured => ({
    key,
    soundId: 1,
    sourceSha256: 'f',
    recipe: null,
    frames,
    channels: 2,
  });
  const settled = async (of: Pictured, view: { start: number; end: number }, width: number) => {
    const [seen] = [columnsOf(of, view, width)];
    for (let i = 0; i < 30; i++) await new Promise((resolve) => setTimeout(resolve));
    return { at: seen, then: columnsOf(of, view, width)! };
  };

  test('hold the extremes of their frames at every zoom, down to single frames', async () => {
    const of = pictured('zoom');
    for (const [start, end, width] of [
      [0, frames, 700],
      [100_000, 160_000, 500],
      [123_456, 123_556, 800],
    ] as const) {
      const { then } = await settled(of, { start, end }, width);
      const count = then.channels[0]!.length / 3;
      const per = (then.covers.end - then.covers.start) / count;
      for (let i = 0; i < count; i += 7) {
        const from = Math.floor(then.covers.start + i * per);
        const part = sound[1]!.subarray(from, Math.max(from + 1, Math.floor(from + per)));
        const [least, most] = [then.channels[1]![i * 3]!, then.channels[1]![i * 3 + 1]!];
        expect(part.find((x) => x < least - 1e-6 || x > most + 1e-6)).toBeUndefined();
      }
      if (end - start < width) expect(count).toBe(end - start);
    }
  });

  test('a coarser picture stands in until the finer one is there; nothing is asked for twice', async () => {
    const of = pictured('coarse');
    const heard: number[] = [];
    const stop = onTile(() => heard.push(1));
    const whole = await settled(of, { start: 0, end: frames }, 500);
    expect(whole.at).toBeNull();
    expect(heard.length).toBeGreaterThan(0);
    const before = asked.length;
    const close = columnsOf(of, { start: 5_000, end: 9_000 }, 500);
    expect(close).not.toBeNull();
    columnsOf(of, { start: 5_000, end: 9_000 }, 500);
    await settled(of, { start: 5_000, end: 9_000 }, 500);
    expect(new Set(asked).size).toBe(asked.length);
    expect(asked.length).toBeGreaterThan(before);
    stop();
  });

  test('what could not be fetched is asked for again', async () => {
    const of = pictured('gone');
    answers = false;
    const failed = await settled(of, { start: 0, end: frames }, 300);
    expect(failed.then).toBeNull();
    answers = true;
    await settled(of, { start: 0, end: frames }, 300);
    expect((await settled(of, { start: 0, end: frames }, 300)).then).not.toBeNull();
  });
});

test('a fade that is drawn is the fade that is heard', () => {
  const before = { rateHz: 8_000, channelCount: 1, frames: 1_000 };
  const { envelope } = traceRecipe(
    { version: 1, steps: [step('fade-out', { frames: 500, shape: 'linear' })] },
    before,
  );
  expect(envelope(999)).toBe(0);
  expect(envelope(499)).toBe(1);
  expect(envelope(749)).toBeCloseTo(0.5, 2);
});

test('a step that is moved keeps its card, and so does one that is changed in its place', () => {
  const [gain, fade, cut] = [step('gain', { gainDb: 1 }), step('fade-in'), step('cut')];
  const keys = (list: ReturnType<typeof keyed>) => list.map(({ key }) => key);
  const first = keyed([gain, fade, cut], []);
  expect(keys(first)).toEqual([1, 2, 3]);
  const moved = keyed([cut, gain, fade], first);
  expect(keys(moved)).toEqual([3, 1, 2]);
  const changed = keyed([cut, step('gain', { gainDb: 2 }), fade], moved);
  expect(keys(changed)).toEqual([3, 1, 2]);
  expect(keys(keyed([cut, fade], changed))).toEqual([3, 2]);
  expect(keys(keyed([gain, gain, gain], keyed([gain, gain], [])))).toEqual([1, 2, 3]);
});
