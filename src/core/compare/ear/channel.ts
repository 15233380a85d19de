import FFT from 'fft.js';
import { hann } from '../../measure/hann';
import { BAND_BARK, binsOfBands, earBands, type BandBins } from './bands';
import { forwardFactor, innerNoiseDb, maskingOffsetDb, outerEarDb } from './hearing';
import { spread } from './spreading';

export const EAR_RATE_HZ = 48_000;
export const EAR_FRAME = 2_048;
export const EAR_HOP = EAR_FRAME / 2;
/** What a full-scale sine is taken to be heard at, in dB of sound pressure. */
const FULL_SCALE_DB = 92;
/** A frame is disturbed when noise rises above its mask in any band by so much, in dB. */
export const DISTURBED_DB = 1.5;

const count = earBands.length;
/** Bins that reach into the highest band; what lies above is not heard. */
const bins = Math.ceil((earBands.at(-1)!.toHz * EAR_FRAME) / EAR_RATE_HZ) + 1;
const linear = (db: number) => 10 ** (db / 10);

/** What one frame of one channel came to, in powers by band of the ear; 1 is 0 dB. Reused for the next. */
export interface EarFrame {
  /** By how much the magnitudes of both sides differ. */
  noise: Float64Array;
  /** The noise that the source just about hides. */
  mask: Float64Array;
  /** The difference of the waveforms themselves, through the same ear. */
  waveNoise: Float64Array;
  /** What reaches the inner ear of both sides, without its own noise. */
  source: Float64Array;
  decoded: Float64Array;
  /** Whether the source rises above the ear's own noise in any band. */
  isAudible: boolean;
}

/** The parts of the model that are the same for all channels. */
class Tables {
  readonly fft = new FFT(EAR_FRAME);
  readonly window = hann(EAR_FRAME);
  readonly bands: BandBins[] = binsOfBands(EAR_RATE_HZ, EAR_FRAME);
  /** From the square of a bin to a power at the inner ear. */
  readonly weights = Float64Array.from({ length: bins }, (_, bin) =>
    bin === 0 ? 0 : linear(outerEarDb((bin * EAR_RATE_HZ) / EAR_FRAME)),
  );
  readonly innerNoise = Float64Array.from(earBands, ({ centreHz }) =>
    linear(innerNoiseDb(centreHz)),
  );
  readonly ringing = Float64Array.from(earBands, ({ centreHz }) =>
    forwardFactor(centreHz, EAR_HOP / EAR_RATE_HZ),
  );
  readonly offsets = Float64Array.from(earBands, (_, band) =>
    linear(-maskingOffsetDb(band, BAND_BARK)),
  );

  constructor() {
    const scale = linear(FULL_SCALE_DB) / this.largestOfFullScale() ** 2;
    for (let bin = 0; bin < bins; bin++) this.weights[bin]! *= scale;
  }

  /** The largest magnitude that a full-scale sine of 1,019.5 Hz has in any bin (ITU-R BS.1387-1, annex 2, 2.1.3). */
  private largestOfFullScale(): number {
    const input = Array.from(
      this.window,
      (w, i) => w * Math.sin((2 * Math.PI * 1_019.5 * i) / EAR_RATE_HZ),
    );
    const out = this.fft.createComplexArray();
    this.fft.realTransform(out, input);
    let most = 0;
    for (let bin = 0; bin < bins; bin++) {
      most = Math.max(most, Math.hypot(out[2 * bin]!, out[2 * bin + 1]!));
    }
    return most;
  }
}

let tables: Tables | null = null;

/** The ear's own noise by band. */
export function innerNoise(): Float64Array {
  return (tables ??= new Tables()).innerNoise;
}

/**
 * Holds one channel of a decoded sound against its source as the ear hears both: an ear model after the basic
 * version of ITU-R BS.1387-1 (annex 2, 2.1), as far as its noise-to-mask ratio goes. It compares magnitudes
 * alone: what turns polarity, or moves everything by less than a frame, is not seen.
 */
export class EarChannel {
  private readonly tables = (tables ??= new Tables());
  private readonly input = new Float64Array(2 * EAR_FRAME);
  private readonly output = new Float64Array(2 * EAR_FRAME);
  private readonly sourcePower = new Float64Array(bins);
  private readonly noisePower = new Float64Array(bins);
  private readonly wavePower = new Float64Array(bins);
  private readonly decodedPower = new Float64Array(bins);
  private readonly excitation = new Float64Array(count);
  private readonly held = new Float64Array(count);
  private readonly frame: EarFrame = {
    noise: new Float64Array(count),
    mask: new Float64Array(count),
    waveNoise: new Float64Array(count),
    source: new Float64Array(count),
    decoded: new Float64Array(count),
    isAudible: false,
  };

  /** Frames of 2,048 samples at 48 kHz, one hop behind the one before. */
  push(source: Float32Array, decoded: Float32Array, at: number): EarFrame {
    const { innerNoise, ringing, offsets } = this.tables;
    const { excitation, held, frame } = this;
    this.transform(source, decoded, at);
    this.group();
    frame.isAudible = false;
    for (let band = 0; band < count; band++) {
      if (excitation[band]! > innerNoise[band]!) frame.isAudible = true;
      excitation[band]! += innerNoise[band]!;
    }
    spread(excitation, frame.mask);
    for (let band = 0; band < count; band++) {
      const now = frame.mask[band]!;
      const ring = ringing[band]!;
      held[band] = ring * held[band]! + (1 - ring) * now;
      frame.mask[band] = Math.max(held[band]!, now) * offsets[band]!;
    }
    return frame;
  }

  /** Both spectra from one transform: the source as its real part, the decoded sound as its imaginary one. */
  private transform(source: Float32Array, decoded: Float32Array, at: number): void {
    const { fft, window, weights } = this.tables;
    const { input, output } = this;
    let isEqual = true;
    for (let i = 0; i < EAR_FRAME; i++) {
      const w = window[i]!;
      const [own, other] = [source[at + i]!, decoded[at + i]!];
      if (own !== other) isEqual = false;
      input[2 * i] = own * w;
      input[2 * i + 1] = other * w;
    }
    if (isEqual) {
      this.noisePower.fill(0);
      this.wavePower.fill(0);
    }
    fft.transform(output as unknown as number[], input as unknown as number[]);
    for (let bin = 0; bin < bins; bin++) {
      const mirror = bin === 0 ? 0 : EAR_FRAME - bin;
      const [re, im] = [output[2 * bin]!, output[2 * bin + 1]!];
      const [mirrorRe, mirrorIm] = [output[2 * mirror]!, output[2 * mirror + 1]!];
      const sourceRe = (re + mirrorRe) / 2;
      const sourceIm = (im - mirrorIm) / 2;
      const decodedRe = (im + mirrorIm) / 2;
      const decodedIm = (mirrorRe - re) / 2;
      const weight = weights[bin]!;
      const power = sourceRe * sourceRe + sourceIm * sourceIm;
      const difference =
        Math.sqrt(decodedRe * decodedRe + decodedIm * decodedIm) - Math.sqrt(power);
      this.sourcePower[bin] = power * weight;
      this.decodedPower[bin] = this.sourcePower[bin]!;
      // What the transform itself rounds off is no noise.
      if (isEqual) continue;
      this.decodedPower[bin] = (decodedRe * decodedRe + decodedIm * decodedIm) * weight;
      this.noisePower[bin] = difference * difference * weight;
      this.wavePower[bin] = ((decodedRe - sourceRe) ** 2 + (decodedIm - sourceIm) ** 2) * weight;
    }
  }

  /** Gathers the bins of all three in the bands of the ear. */
  private group(): void {
    const { sourcePower, decodedPower, noisePower, wavePower, excitation, frame } = this;
    const { bands } = this.tables;
    for (let band = 0; band < count; band++) {
      const { firstBin, shares } = bands[band]!;
      let [own, noise, wave, decoded] = [0, 0, 0, 0];
      for (let i = 0; i < shares.length; i++) {
        const share = shares[i]!;
        own += share * sourcePower[firstBin + i]!;
        noise += share * noisePower[firstBin + i]!;
        wave += share * wavePower[firstBin + i]!;
        decoded += share * decodedPower[firstBin + i]!;
      }
      excitation[band] = own;
      frame.source[band] = own;
      frame.decoded[band] = decoded;
      frame.noise[band] = noise;
      frame.waveNoise[band] = wave;
    }
  }
}
