/** Level of an amplitude; `null` stands for silence, whose level has no number. */
export function toDb(amplitude: number): number | null {
  return amplitude > 0 ? 20 * Math.log10(amplitude) : null;
}

export function powerToDb(power: number): number | null {
  return power > 0 ? 10 * Math.log10(power) : null;
}
