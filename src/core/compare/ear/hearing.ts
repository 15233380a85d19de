/**
 * What outer and middle ear do to a level, in dB (Terhardt 1979; ITU-R BS.1387-1, annex 2, 2.1.4): a resonance
 * of the ear canal near 3.3 kHz, less of everything that lies low or high.
 */
export function outerEarDb(hz: number): number {
  const kHz = hz / 1000;
  return -0.6 * 3.64 * kHz ** -0.8 + 6.5 * Math.exp(-0.6 * (kHz - 3.3) ** 2) - 0.001 * kHz ** 3.6;
}

/** The ear's own noise at a frequency, in dB: with the outer ear it makes the threshold in quiet. */
export function innerNoiseDb(hz: number): number {
  return 0.4 * 3.64 * (hz / 1000) ** -0.8;
}

/** How far below a masker noise must lie so as not to be heard, in dB; bands count from 0. */
export function maskingOffsetDb(band: number, bandBark: number): number {
  const bark = band * bandBark;
  return bark <= 12 ? 3 : 0.25 * bark;
}

/** What is left of an excitation after `seconds`, 0 to 1: low pitches ring on for longer. */
export function forwardFactor(centreHz: number, seconds: number): number {
  const tau = SHORTEST_SECONDS + (100 / centreHz) * (SECONDS_AT_100_HZ - SHORTEST_SECONDS);
  return Math.exp(-seconds / tau);
}

const SHORTEST_SECONDS = 0.008;
const SECONDS_AT_100_HZ = 0.03;
