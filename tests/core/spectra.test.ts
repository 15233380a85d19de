import { rowHz, spectrogram, SPECTROGRAM_RANGE_DB } from '@/core/measure/spectrogram';
import { SpectrumMeter } from '@/core/measure/spectrum';
import { sourceFromChannels } from '@/core/pcm/source';
import { noise, sine } from './signals';

/** Spectrum and spectrogram against the same, worked out the long way from the samples. */

describe('the spectrum', () => {
  const RATE = 48_000;
  const SIZE = 4_096;
  const spectrumOf = (channels: Float32Array[], rateHz = RATE, blockFrames = 1_500) => {
    const meter = new SpectrumMeter(rateHz, channels.length);
    for (let at = 0; at < channels[0]!.length; at += blockFrames) {
      meter.push(channels.map((channel) => channel.subarray(at, at + blockFrames)));
    }
    return meter.result();
  };
  /** A tone exactly on a line of the transform, which the window makes seven lines wide at most. */
  const line = (bin: number, frames: number, amplitude: number) =>
    sine(RATE, (bin * RATE) / SIZE, frames, amplitude);
  const sum = (a: Float32Array, b: Float32Array) => a.map((x, i) => x + b[i]!);
  const levelAt = (facts: ReturnType<typeof spectrumOf>, hz: number) => {
    const { hz: points, levelsDb } = facts.spectrum!;
    const nearest = points.reduce((a, b) => (Math.abs(b - hz) < Math.abs(a - hz) ? b : a));
    return levelsDb[points.indexOf(nearest)]!;
  };

  test('points lie a twelfth of an octave apart, from 20 Hz to half the rate', () => {
    const { hz, levelsDb } = spectrumOf([line(100, SIZE, 1)]).spectrum!;
    const wanted = Array.from({ length: 123 }, (_, n) => Math.round(200 * 2 ** (n / 12)) / 10);
    expect(hz).toEqual(wanted.filter((x) => x <= 24_000));
    expect(levelsDb.length).toBe(hz.length);
  });

  test('a line reads its level, in every channel that is not silent, over all of the time', () => {
    const loud = line(100, 4 * SIZE, 0.5);
    const hz = (100 * RATE) / SIZE;
    expect(levelAt(spectrumOf([loud]), hz)).toBeCloseTo(-6, 1);
    expect(levelAt(spectrumOf([loud, loud.map((x) => x / 10)]), hz)).toBeCloseTo(-9, 1);
    expect(levelAt(spectrumOf([loud, new Float32Array(loud.length)]), hz)).toBeCloseTo(-6, 1);
    // Silent stretches are no pictures.
    const half = loud.map((x, i) => (i < 2 * SIZE ? x : 0));
    expect(levelAt(spectrumOf([half]), hz)).toBeCloseTo(-6, 1);
    // Beside the line, out of reach of the window, there is nothing.
    expect(levelAt(spectrumOf([loud]), 2 * hz)).toBeLessThan(-95);
  });

  test('points between lines take the lines that they cover, low ones the nearest', () => {
    const facts = spectrumOf([sum(line(2, 4 * SIZE, 1), line(1_000, 4 * SIZE, 0.5))]);
    expect(levelAt(facts, (2 * RATE) / SIZE)).toBeCloseTo(0, 0);
    expect(levelAt(facts, (1_000 * RATE) / SIZE)).toBeCloseTo(-6, 1);
  });

  test('what is shorter than a stretch, or left over behind the last, is looked at too', () => {
    const hz = (410 * RATE) / SIZE;
    expect(levelAt(spectrumOf([line(410, 1_000, 0.5)]), hz)).toBeCloseTo(-6, 0);
    // The tone begins behind the last whole stretch; the last stretch of all reaches back to have its length.
    const late = new Float32Array(2 * SIZE + 3_000);
    late.set(line(410, 3_000, 0.5), 2 * SIZE);
    late[0] = 1e-4;
    expect(levelAt(spectrumOf([late]), hz)).toBeGreaterThan(-20);
    // As in one picture of those last frames alone, and the one in front of them that holds no more than a click.
    const alone = late.slice(-SIZE);
    const [both, one] = [levelAt(spectrumOf([late]), hz), levelAt(spectrumOf([alone]), hz)];
    expect(one - both).toBeCloseTo(3, 0);
    for (const blockFrames of [SIZE, 999, 7]) {
      expect(spectrumOf([late], RATE, blockFrames)).toEqual(spectrumOf([late]));
    }
  });

  test('silence has none', () => {
    const none = { bandwidthHz: null, shelfHz: null, spectrum: null };
    expect(spectrumOf([new Float32Array(9_000)])).toEqual(none);
    expect(spectrumOf([new Float32Array(0)])).toEqual(none);
  });

  test('it ends where nothing is left: the floor of 16 bits, and 88 dB below the loudest', () => {
    const upTo = (bin: number, db: number, above = 1) =>
      spectrumOf([sum(line(100, 4 * SIZE, above), line(bin, 4 * SIZE, 10 ** (db / 20)))])
        .bandwidthHz!;
    const hz = (bin: number) => (bin * RATE) / SIZE;
    // The window spreads a line over three more; its flanks count while they are loud enough.
    const near = (found: number, bin: number) => {
      expect(found).toBeGreaterThanOrEqual(hz(bin) - 1);
      expect(found).toBeLessThanOrEqual(hz(bin + 4));
    };
    near(upTo(1_500, -60), 1_500);
    near(upTo(1_500, -86), 1_500);
    near(upTo(1_500, -92), 100);
    near(upTo(1_500, -115, 0.001), 1_500);
    near(upTo(1_500, -124, 0.000_1), 100);
  });

  test('a cut is told from a slope, with its place', () => {
    // Lines of one level, each third one, up to an end; then nothing, or lines that grow quieter.
    const lines = (levelDb: (hz: number) => number) => {
      const sound = new Float32Array(2 * SIZE);
      for (let bin = 20; bin < 2_000; bin += 4) {
        const amplitude = 0.01 * 10 ** (levelDb((bin * RATE) / SIZE) / 20);
        const phase = bin * bin * 0.37;
        for (let i = 0; i < sound.length; i++) {
          sound[i]! += amplitude * Math.sin((2 * Math.PI * bin * i) / SIZE + phase);
        }
      }
      return spectrumOf([sound]);
    };
    const cut = lines((hz) => (hz < 16_000 ? 0 : -200));
    expect(Math.abs(cut.shelfHz! - 16_000)).toBeLessThan(80);
    expect(cut.bandwidthHz).toBe(cut.shelfHz);
    // A slope that ends on a floor is none, however far it falls.
    const slope = (hz: number) => Math.max(-85, hz < 12_000 ? 0 : -(hz - 12_000) / 50);
    expect(lines(slope)).toMatchObject({ bandwidthHz: expect.any(Number), shelfHz: null });
    expect(lines(() => 0).shelfHz).toBeNull();
    // Low ends are too near to the beginning to be read.
    expect(lines((hz) => (hz < 2_000 ? 0 : -200)).shelfHz).toBeNull();
    expect(lines((hz) => (hz < 3_200 ? 0 : -200)).shelfHz).not.toBeNull();
    // Just below half the rate there is no room to read outside.
    expect(lines((hz) => (hz < 23_200 ? 0 : -200)).shelfHz).not.toBeNull();
    expect(lines((hz) => (hz < 23_440 ? 0 : -200)).shelfHz).toBeNull();
  });
});

describe('the spectrogram', () => {
  const RATE = 8_000;
  const ROWS = 24;
  const sound = [
    noise(6_000, 1, 0.01).map((x, i) => x + 0.5 * Math.sin((2 * Math.PI * 500 * i) / RATE)),
    noise(6_000, 2, 0.3),
  ];

  /** One column, by a transform that is written out. */
  function column(middle: number, size: number): number[] {
    const first = middle - size / 2;
    const turn = Array.from({ length: size }, (_, i) => Math.cos((2 * Math.PI * i) / size));
    const powers = Array.from({ length: size / 2 + 1 }, (_, bin) => {
      const inChannels = sound.map((channel) => {
        let [re, im] = [0, 0];
        for (let i = 0; i < size; i++) {
          const window = Math.sin((Math.PI * (i + 0.5)) / size) ** 2;
          const x = window * (channel[first + i] ?? 0);
          re += x * turn[(bin * i) % size]!;
          im += x * turn[(bin * i + size / 4) % size]!;
        }
        return ((re * re + im * im) * 16) / size ** 2;
      });
      return Math.max(...inChannels);
    });
    return Array.from({ length: ROWS }, (_, row) => {
      const binOf = (edge: number) => Math.round((rowHz(edge, ROWS, RATE) / RATE) * size);
      const from = Math.min(size / 2, binOf(row));
      const to = Math.max(from, Math.min(size / 2, binOf(row + 1) - 1));
      const db = 10 * Math.log10(Math.max(...powers.slice(from, to + 1)));
      return Math.max(0, Math.min(255, (1 + db / SPECTROGRAM_RANGE_DB) * 255));
    });
  }

  test.each([
    [{ startFrame: 0, endFrame: 6_000, columns: 4 }, 4_096],
    [{ startFrame: 0, endFrame: 6_000, columns: 24 }, 1_024],
    [{ startFrame: 1_000, endFrame: 1_640, columns: 10 }, 256],
    [{ startFrame: 1_000, endFrame: 1_650, columns: 10 }, 512],
    [{ startFrame: 5_990, endFrame: 6_000, columns: 3 }, 256],
  ])('%j: every level of every column, with a window of %i frames', async (span, size) => {
    const picture = await spectrogram(sourceFromChannels(sound, RATE), { ...span, rows: ROWS });
    expect(picture.length).toBe(span.columns * ROWS);
    const hop = (span.endFrame - span.startFrame) / span.columns;
    for (const c of [0, span.columns - 1]) {
      const wanted = column(Math.round(span.startFrame + (c + 0.5) * hop), size);
      wanted.forEach((level, row) =>
        expect([c, row, Math.abs(picture[c * ROWS + row]! - level) <= 0.51]).toEqual([
          c,
          row,
          true,
        ]),
      );
    }
  });

  test('is the same however many columns are read together', async () => {
    const long = sourceFromChannels([noise(120_000, 7)], RATE);
    const span = { startFrame: 0, endFrame: 120_000, columns: 300, rows: ROWS };
    const whole = await spectrogram(long, span);
    const half = await spectrogram(long, { ...span, startFrame: 60_000, columns: 150 });
    expect(half).toEqual(whole.slice(150 * ROWS));
  });

  test('a rate with no room above the lowest row is refused', async () => {
    const at = (rateHz: number) =>
      spectrogram(sourceFromChannels(sound, rateHz), {
        startFrame: 0,
        endFrame: 100,
        columns: 2,
        rows: 4,
      });
    await expect(at(80)).rejects.toMatchObject({ code: 'not-legal' });
    expect((await at(81)).length).toBe(8);
  });
});
