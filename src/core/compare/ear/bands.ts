/** Pitch as the ear orders it, in Bark (Schroeder, Atal & Hall 1979; ITU-R BS.1387-1, annex 2, 2.1.5). */
export function barkOf(hz: number): number {
  return 7 * Math.asinh(hz / 650);
}

/** The frequency in Hz that lies at a pitch in Bark. */
export function hzAt(bark: number): number {
  return 650 * Math.sinh(bark / 7);
}

/** A band of the ear, in Hz. */
export interface EarBand {
  fromHz: number;
  centreHz: number;
  toHz: number;
}

/** Width of a band, in Bark. */
export const BAND_BARK = 0.25;

const LOWEST_HZ = 80;
const HIGHEST_HZ = 18_000;

/** 109 bands of a quarter Bark; the last one ends where the range does. */
export const earBands: readonly EarBand[] = bandsBetween(barkOf(LOWEST_HZ), barkOf(HIGHEST_HZ));

function bandsBetween(lowest: number, highest: number): EarBand[] {
  return Array.from({ length: Math.ceil((highest - lowest) / BAND_BARK) }, (_, k) => {
    const from = lowest + k * BAND_BARK;
    const to = Math.min(highest, from + BAND_BARK);
    return { fromHz: hzAt(from), centreHz: hzAt((from + to) / 2), toHz: hzAt(to) };
  });
}

/** How much of each bin of a spectrum belongs to a band: bins reach half their width to both sides. */
export interface BandBins {
  firstBin: number;
  shares: Float64Array;
}

export function binsOfBands(rateHz: number, fftSize: number): BandBins[] {
  const binHz = rateHz / fftSize;
  return earBands.map(({ fromHz, toHz }) => {
    const firstBin = Math.round(fromHz / binHz);
    const lastBin = Math.max(firstBin, Math.round(toHz / binHz));
    const shares = Float64Array.from({ length: lastBin - firstBin + 1 }, (_, i) => {
      const middle = (firstBin + i) * binHz;
      const inside = Math.min(toHz, middle + binHz / 2) - Math.max(fromHz, middle - binHz / 2);
      return Math.max(0, inside) / binHz;
    });
    return { firstBin, shares };
  });
}
