import { BAND_BARK, earBands } from './bands';

/** How steeply masking falls towards low pitches, in dB per Bark. */
export const DOWNWARD_DB = 27;

/** How much less steeply it falls towards high pitches for every dB of the masker. */
const PER_LEVEL_DB = 0.2;

/** How steeply masking falls towards high pitches, in dB per Bark: loud maskers reach farther. */
export function upwardDb(centreHz: number, levelDb: number): number {
  return 24 + 230 / centreHz - PER_LEVEL_DB * levelDb;
}

/** Maskers together mask more than their powers do: this is the exponent with which they add. */
const EXPONENT = 0.4;
/** What is given on, as added, down to this: the ear's own noise is about 1. */
const LEAST = 1e-5;

const count = earBands.length;
/** What is left of a power one band farther down. */
const down = 10 ** ((-DOWNWARD_DB * BAND_BARK) / 10);
const downAdded = down ** EXPONENT;
/** What all lower bands together get of a power of 1. */
const sharesBelow = Float64Array.from(
  earBands,
  (_, band) => (down - down ** (band + 1)) / (1 - down),
);
/** Natural logarithm of what is left of a power of 1 (0 dB) one band farther up. */
const lnUp = Float64Array.from(
  earBands,
  ({ centreHz }) => (-upwardDb(centreHz, 0) * BAND_BARK * Math.LN10) / 10,
);

/** Spreads band powers, and leaves them with the exponent with which they add. */
function added(power: Float64Array, out: Float64Array): void {
  out.fill(0);
  for (let band = 0; band < count; band++) {
    // Logarithms cost much less than powers of powers, and this is where the time goes.
    const lnOwn = Math.log(power[band]!);
    const lnSlope = lnUp[band]! + PER_LEVEL_DB * BAND_BARK * lnOwn;
    // Whatever it gives to others, a band has in all as much as before.
    const shares = sharesBelow[band]! + sharesFrom(lnSlope, count - band);
    const kept = Math.exp(EXPONENT * (lnOwn - Math.log(shares)));
    const slope = Math.exp(EXPONENT * lnSlope);
    out[band]! += kept;
    for (let to = band + 1, given = kept * slope; to < count && given > LEAST; to++) {
      out[to]! += given;
      given *= slope;
    }
    for (let to = band - 1, given = kept * downAdded; to >= 0 && given > LEAST; to--) {
      out[to]! += given;
      given *= downAdded;
    }
  }
}

/** What a power of 1 comes to in so many bands, itself the first: a geometric series. */
function sharesFrom(lnSlope: number, bands: number): number {
  const slope = Math.exp(lnSlope);
  if (Math.abs(1 - slope) < 1e-9) return bands;
  return (1 - Math.exp(bands * lnSlope)) / (1 - slope);
}

/** What powers of 1 in all bands come to. */
const flat = new Float64Array(count);
added(new Float64Array(count).fill(1), flat);

/**
 * Spreads the powers of the ear's bands over their neighbours (slopes after Terhardt 1979; ITU-R BS.1387-1, annex
 * 2, 2.1.7), 1 being 0 dB. Equal powers of 0 dB stay as they are. Powers must be more than 0.
 */
export function spread(power: Float64Array, out: Float64Array): void {
  added(power, out);
  for (let band = 0; band < count; band++) {
    const sum = out[band]! / flat[band]!;
    // The inverse of the exponent is 2.5.
    out[band] = sum * sum * Math.sqrt(sum);
  }
}
