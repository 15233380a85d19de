import fc from 'fast-check';
import { memorySource } from '@/core/bytes/source';
import { nearestCrossing, zeroCrossing } from '@/core/measure/crossing';
import { PyramidBuilder, readBucketPeaks } from '@/core/measure/pyramid';
import { onlyWhatSounds, soundingStretches } from '@/core/measure/sounding';
import {
  LOWEST_ROW_HZ,
  rowHz,
  spectrogram,
  SPECTROGRAM_RANGE_DB,
} from '@/core/measure/spectrogram';
import { TruePeakMeter } from '@/core/measure/truePeak';
import { sourceFromChannels } from '@/core/pcm/source';
import { barAndBeat, barLabel, formatBars, frameOfBar } from '@/core/tempo';
import { parseTime } from '@/core/time';
import { noise, sine } from './signals';

async function stretchesOf(
  channels: Float32Array[],
  threshold: number,
  leastSilenceFrames: number,
) {
  const builder = new PyramidBuilder(channels.length);
  builder.push(channels);
  const peaks = await readBucketPeaks(memorySource(builder.finish()));
  const source = sourceFromChannels(channels, 8_000, { blockFrames: 999 });
  return soundingStretches(source, peaks, { threshold, leastSilenceFrames });
}

/** The same, frame by frame. */
function plainStretches(channels: Float32Array[], threshold: number, leastSilenceFrames: number) {
  const found: { startFrame: number; endFrame: number }[] = [];
  for (let i = 0; i < channels[0]!.length; i++) {
    if (!channels.some((channel) => Math.abs(channel[i]!) > threshold)) continue;
    const last = found.at(-1);
    if (last && i - last.endFrame < leastSilenceFrames) last.endFrame = i + 1;
    else found.push({ startFrame: i, endFrame: i + 1 });
  }
  return found;
}

test('where it sounds is found to the frame, by the pyramid as by looking at every frame', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(
        fc.record({
          quiet: fc.integer({ min: 1, max: 2_000 }),
          loud: fc.integer({ min: 1, max: 900 }),
        }),
        { minLength: 1, maxLength: 6 },
      ),
      fc.integer({ min: 513, max: 3_000 }),
      async (list, least) => {
        const parts = list.flatMap(({ quiet, loud }) => [
          ...noise(quiet, 3, 0.0005),
          ...new Float32Array(loud).fill(0.2),
        ]);
        const channels = [Float32Array.from(parts), new Float32Array(parts.length)];
        // The float nearest to 0.2 lies above it.
        expect(await stretchesOf(channels, 0.001, least)).toEqual(
          plainStretches(channels, 0.001, least),
        );
      },
    ),
    { numRuns: 40 },
  );
});

test('only what sounds leaves a little air, never beyond the sound; silence leaves nothing', async () => {
  const sound = Float32Array.from({ length: 9_000 }, (_, i) => (i >= 3_000 && i < 8_950 ? 0.5 : 0));
  const stretches = await stretchesOf([sound], 0.001, 800);
  expect(stretches).toEqual([{ startFrame: 3_000, endFrame: 8_950 }]);
  expect(onlyWhatSounds(stretches, 80, 9_000)).toEqual({ startFrame: 2_920, endFrame: 9_000 });
  expect(onlyWhatSounds([], 80, 9_000)).toBeNull();
  expect(await stretchesOf([new Float32Array(500)], 0.001, 800)).toEqual([]);
});

test('zero crossings: before, behind, nearest, none', async () => {
  // A hundred Hertz at 8 kHz crosses every forty frames, here between two of them.
  const tone = Float32Array.from({ length: 8_000 }, (_, i) => Math.sin((Math.PI * (i + 0.5)) / 40));
  const source = sourceFromChannels([tone, tone], 8_000);
  expect(await zeroCrossing(source, 1_010, 1)).toBe(1_040);
  expect(await zeroCrossing(source, 1_010, -1)).toBe(1_000);
  expect(await zeroCrossing(source, 1_040, 1)).toBe(1_080);
  expect(await zeroCrossing(source, 1_040, -1)).toBe(1_000);
  expect(await nearestCrossing(source, 1_015)).toBe(1_000);
  expect(await nearestCrossing(source, 1_030)).toBe(1_040);
  expect(await nearestCrossing(source, 1_040)).toBe(1_040);
  const far = new Float32Array(30_000).fill(0.1);
  far[25_000] = -0.1;
  const flat = sourceFromChannels([far], 8_000);
  expect(await zeroCrossing(flat, 12_000, 1)).toBe(25_000);
  expect(await zeroCrossing(flat, 12_000, -1)).toBeNull();
  expect(await nearestCrossing(flat, 0)).toBeNull();
});

test('zero crossings of any sound, by looking at every frame', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.constantFrom(0, 0.25, -0.25, 0.5), { minLength: 1, maxLength: 40 }),
      fc.integer({ min: 1, max: 900 }),
      fc.nat(1_000),
      async (pattern, length, share) => {
        // Each value stands for a while, so that some looks find nothing near.
        const sound = Float32Array.from(pattern.flatMap((x) => new Array<number>(length).fill(x)));
        const source = sourceFromChannels([sound, sound.map((x) => x / 2)], 8_000);
        const frame = Math.round((share * sound.length) / 1_000);
        const isCrossing = (i: number) => sound[i - 1]! !== 0 && sound[i]! * sound[i - 1]! <= 0;
        // Two seconds are looked at, rounded up to whole looks of eight times as much each.
        const places = [...sound.keys()].filter((i) => i > 0 && isCrossing(i));
        const before = places.findLast((i) => i < frame && i > frame - 16_384) ?? null;
        const behind = places.find((i) => i > frame && i <= frame + 16_384) ?? null;
        expect(await zeroCrossing(source, frame, -1)).toBe(before);
        expect(await zeroCrossing(source, frame, 1)).toBe(behind);
        const here = places.includes(frame) ? frame : null;
        const both = [before, behind].filter((place) => place !== null);
        const near = both.sort((a, b) => Math.abs(a - frame) - Math.abs(b - frame) || a - b)[0];
        expect(await nearestCrossing(source, frame)).toBe(here ?? near ?? null);
      },
    ),
    { numRuns: 150 },
  );
});

test('the spectrogram shows a tone at its pitch and level, when it sounds, at any zoom', async () => {
  const rateHz = 48_000;
  const tone = sine(rateHz, 1_000, 96_000, 1).map((x, i) => (i < 48_000 ? 0 : x));
  const source = sourceFromChannels([tone, new Float32Array(96_000)], rateHz);
  const rows = 128;
  for (const span of [
    { startFrame: 0, endFrame: 96_000, columns: 40 },
    { startFrame: 40_000, endFrame: 56_000, columns: 100 },
  ]) {
    const picture = await spectrogram(source, { ...span, rows });
    const column = (i: number) => picture.subarray(i * rows, (i + 1) * rows);
    const loud = column(Math.floor(span.columns * 0.9));
    const row = loud.indexOf(Math.max(...loud));
    expect(rowHz(row, rows, rateHz)).toBeLessThanOrEqual(1_060);
    expect(rowHz(row + 1, rows, rateHz)).toBeGreaterThanOrEqual(940);
    expect((loud[row]! / 255 - 1) * SPECTROGRAM_RANGE_DB).toBeGreaterThan(-2);
    expect(Math.max(...column(Math.floor(span.columns * 0.2)))).toBe(0);
  }
  expect(rowHz(0, rows, rateHz)).toBe(LOWEST_ROW_HZ);
  expect(rowHz(rows, rows, rateHz)).toBeCloseTo(24_000, 6);
  await expect(
    spectrogram(sourceFromChannels([tone], 60), {
      startFrame: 0,
      endFrame: 9,
      columns: 1,
      rows: 8,
    }),
  ).rejects.toThrow(/too low/);
});

test('passing over quiet stretches leaves the true peak as it is', () => {
  // The peak lies in one short burst; everything around it is quieter than it could matter.
  const sound = noise(40_000, 5, 0.1);
  for (let i = 0; i < 64; i++) sound[20_000 + i]! += 0.8 * Math.sin(i * 1.4 + 0.7);
  const whole = new TruePeakMeter(48_000, 1);
  whole.push([sound]);
  const small = new TruePeakMeter(48_000, 1);
  for (let at = 0; at < sound.length; at += 777) small.push([sound.subarray(at, at + 777)]);
  expect(small.result()).toEqual(whole.result());
});

describe('bars and beats', () => {
  /** Beats a minute, beats a bar, a bar, and a number that picks a beat. */
  const places = [
    fc.integer({ min: 20, max: 300 }),
    fc.integer({ min: 1, max: 12 }),
    fc.integer({ min: 1, max: 500 }),
    fc.nat(),
  ] as const;
  const tempo = { bpm: 120, beatsPerBar: 4 };
  test('count from one, and name the frame that lies nearest', () => {
    expect(frameOfBar(1, 1, tempo, 48_000)).toBe(0);
    expect(frameOfBar(2, 1, tempo, 48_000)).toBe(96_000);
    expect(frameOfBar(3, 2.5, tempo, 48_000)).toBe(228_000);
    const told = ['b3.2+1/2', 'b3', 'b3+1/3', 'b1.4+3/16'].map((place) => [
      place,
      formatBars(parseTime(place, 48_000, tempo).frame, tempo, 48_000),
    ]);
    for (const [typed, shown] of told) expect(shown).toBe(typed);
    expect(barLabel(96_000, tempo, 48_000)).toBe('2');
    expect(barLabel(120_000, tempo, 48_000)).toBe('2.2');
    // What has no name is told to the nearest 32nd of a beat.
    expect(formatBars(12_200, tempo, 48_000)).toBe('b1+1/2');
    expect(formatBars(23_990, tempo, 48_000)).toBe('b1+31/32');
  });
  test('a beat is found again from its frame, at any tempo', () => {
    fc.assert(
      fc.property(...places, (bpm, beatsPerBar, bar, b) => {
        const beat = 1 + (b % beatsPerBar);
        const frame = frameOfBar(bar, beat, { bpm, beatsPerBar }, 44_100);
        const found = barAndBeat(frame, { bpm, beatsPerBar }, 44_100);
        expect([found.bar, found.beat]).toEqual([bar, beat]);
      }),
    );
  });
  test('and every named part of a beat is read as it is shown, at any tempo', () => {
    const parts = fc.constantFrom(2, 3, 4, 6, 8, 12, 16, 24, 32);
    fc.assert(
      fc.property(...places, parts, fc.nat(), (bpm, beatsPerBar, bar, b, of, n) => {
        const own = { bpm, beatsPerBar };
        const frame = frameOfBar(bar, 1 + (b % beatsPerBar) + (n % of) / of, own, 44_100);
        expect(parseTime(formatBars(frame, own, 44_100), 44_100, own).frame).toBe(frame);
      }),
    );
  });
  test('are typed with a b, and only when a tempo is set', () => {
    expect(parseTime('b2', 48_000, tempo).frame).toBe(96_000);
    expect(parseTime('B2.3', 48_000, tempo).frame).toBe(144_000);
    expect(parseTime('b1.2+1/2', 48_000, tempo).frame).toBe(36_000);
    expect(parseTime('b2+1/4', 48_000, tempo).frame).toBe(102_000);
    expect(() => parseTime('b2', 48_000)).toThrow(/need a tempo/);
    expect(() => parseTime('b0', 48_000, tempo)).toThrow(/count from 1/);
    expect(() => parseTime('b1.0', 48_000, tempo)).toThrow(/count from 1/);
    expect(() => parseTime('b1.5', 48_000, tempo)).toThrow(/beats 1 to 4/);
    expect(() => parseTime('b1+1/1', 48_000, tempo)).toThrow(/less than one/);
    expect(() => parseTime('b1+1/0', 48_000, tempo)).toThrow(/less than one/);
    expect(() => parseTime('b1.2.5', 48_000, tempo)).toThrow(/not a time/);
    expect(() => parseTime('2|1', 48_000, tempo)).toThrow(/not a time/);
  });
});
