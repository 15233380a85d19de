/** What is left of silence behind a filter: −300 dB is far below what any format holds. */
const SILENT = 1e-15;

/** Level of an amplitude; `null` stands for silence, whose level has no number. */
export function toDb(amplitude: number): number | null {
  return amplitude > SILENT ? 20 * Math.log10(amplitude) : null;
}

export function powerToDb(power: number): number | null {
  return power > SILENT ** 2 ? 10 * Math.log10(power) : null;
}
