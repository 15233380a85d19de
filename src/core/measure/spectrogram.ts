import FFT from 'fft.js';
import { BijouError } from '../errors';
import { wholeRange, type PcmSource } from '../pcm/source';

export interface SpectrogramOptions {
  startFrame: number;
  endFrame: number;
  /** Pictures of the spectrum, evenly over the span. */
  columns: number;
  /** Levels of each, from low to high. */
  rows: number;
}

/** What 0 stands for, in dB below a full-scale sine; 255 stands for full scale. */
export const SPECTROGRAM_RANGE_DB = 110;
export const LOWEST_ROW_HZ = 40;
const SIZES = { least: 256, most: 4_096 };

/** Frequency at which a row begins; rows are equal steps of pitch. `row` may be fractional. */
export function rowHz(row: number, rows: number, rateHz: number): number {
  return LOWEST_ROW_HZ * (rateHz / 2 / LOWEST_ROW_HZ) ** (row / rows);
}

/**
 * Levels over time and pitch, one byte each, column by column, of all channels together. Each column is
 * the spectrum around its middle (Hann window), so that it costs the same however long the span is.
 */
export async function spectrogram(
  source: PcmSource,
  { startFrame, endFrame, columns, rows }: SpectrogramOptions,
): Promise<Uint8Array> {
  if (source.rateHz <= 2 * LOWEST_ROW_HZ) throw tooSlow();
  const hop = (endFrame - startFrame) / columns;
  const size = windowSize(hop);
  const meter = new ColumnMeter(size, rows, source.rateHz);
  const picture = new Uint8Array(columns * rows);
  // Columns that overlap are read together, far ones each at its place.
  const together = Math.max(1, Math.floor(READ_FRAMES / Math.max(size, hop)));
  for (let column = 0; column < columns; column += together) {
    const count = Math.min(together, columns - column);
    const middle = (i: number) => Math.round(startFrame + (column + i + 0.5) * hop);
    const from = middle(0) - size / 2;
    const to = middle(count - 1) + size / 2;
    const inside = [Math.max(0, from), Math.min(source.frames, to)] as const;
    const channels = await wholeRange(source, inside[0], Math.max(...inside));
    for (let i = 0; i < count; i++) {
      const first = middle(i) - size / 2 - inside[0];
      meter.measure(channels, first, picture, (column + i) * rows);
    }
  }
  return picture;
}

/** Frames that are read at a time while columns overlap. */
const READ_FRAMES = 32_768;

/** Long windows tell pitches apart, short ones moments: as fits what a column covers. */
function windowSize(hop: number): number {
  let size = SIZES.least;
  while (size < SIZES.most && size < hop * 4) size *= 2;
  return size;
}

class ColumnMeter {
  private readonly fft: FFT;
  private readonly window: Float64Array;
  private readonly input: Float64Array;
  private readonly output: number[];
  private readonly power: Float64Array;
  /** First and last bin of each row. */
  private readonly bins: readonly (readonly [number, number])[];

  constructor(
    private readonly size: number,
    rows: number,
    rateHz: number,
  ) {
    this.fft = new FFT(size);
    this.window = Float64Array.from(
      { length: size },
      (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / size),
    );
    this.input = new Float64Array(size);
    this.output = this.fft.createComplexArray();
    this.power = new Float64Array(size / 2 + 1);
    const binOf = (row: number) => (rowHz(row, rows, rateHz) / rateHz) * size;
    this.bins = Array.from({ length: rows }, (_, row) => {
      const first = Math.min(size / 2, Math.round(binOf(row)));
      return [first, Math.max(first, Math.min(size / 2, Math.round(binOf(row + 1)) - 1))] as const;
    });
  }

  measure(channels: readonly Float32Array[], first: number, out: Uint8Array, at: number): void {
    const { size, window, input, output, power } = this;
    power.fill(0);
    // A full-scale sine in one of the channels reads 0 dB.
    const scale = (4 / size) ** 2;
    for (const channel of channels) {
      for (let i = 0; i < size; i++) input[i] = (channel[first + i] ?? 0) * window[i]!;
      this.fft.realTransform(output, input);
      for (let bin = 0; bin < power.length; bin++) {
        const [re, im] = [output[2 * bin]!, output[2 * bin + 1]!];
        power[bin] = Math.max(power[bin]!, (re * re + im * im) * scale);
      }
    }
    this.bins.forEach(([from, to], row) => {
      let most = 0;
      for (let bin = from; bin <= to; bin++) if (power[bin]! > most) most = power[bin]!;
      const db = most > 0 ? 10 * Math.log10(most) : -Infinity;
      out[at + row] = Math.max(0, Math.min(255, Math.round((1 + db / SPECTROGRAM_RANGE_DB) * 255)));
    });
  }
}

function tooSlow(): BijouError {
  return new BijouError(
    'not-legal',
    'The sample rate is too low for a spectrogram.',
    'Look at the waveform instead.',
  );
}
