import FFT from 'fft.js';
import { hann } from '../hann';

/** Octaves whose levels are taken, by the frequency at which each begins. */
export const OCTAVES_HZ = [125, 250, 500, 1_000, 2_000, 4_000, 8_000];

/** What is measured of a short stretch of sound. */
export interface VoiceFrame {
  /** How alike it is to itself a period later, 0 … 1. */
  periodicity: number;
  pitchHz: number;
  /** Of the whole spectrum. */
  power: number;
  octavePowers: number[];
}

const FRAME_SECONDS = 0.064;
export const HOP_SECONDS = 0.016;
const LOWEST_HZ = 45;
const HIGHEST_HZ = 1_000;
/** Periods are looked for below this: hiss hides them. */
const PERIODIC_BELOW_HZ = 2_500;
/** The first period that is nearly as good as the best is the true one; the best may be two of them. */
const NEARLY = 0.88;

/** A sound of one channel, cut into stretches that overlap. */
export function stretchesOf(sound: Float32Array, rateHz: number): Float32Array[] {
  const size = Math.floor(rateHz * FRAME_SECONDS);
  const hop = Math.floor(rateHz * HOP_SECONDS);
  const count = Math.max(0, Math.floor((sound.length - size) / hop) + 1);
  return Array.from({ length: count }, (_, i) => sound.subarray(i * hop, i * hop + size));
}

/** Mean square of a stretch, without what does not move. */
export function energyOf(stretch: Float32Array): number {
  const mean = meanOf(stretch);
  return stretch.reduce((sum, x) => sum + (x - mean) ** 2, 0) / stretch.length;
}

function meanOf(stretch: Float32Array): number {
  return stretch.reduce((sum, x) => sum + x, 0) / stretch.length;
}

/** Pitch (autocorrelation, freed from that of the window: Boersma, IFA Proceedings 17, 1993) and octaves of stretches. */
export function voiceFrames(stretches: readonly Float32Array[], rateHz: number): VoiceFrame[] {
  const taker = new FrameTaker(rateHz, Math.floor(rateHz * FRAME_SECONDS));
  return stretches.map((stretch) => taker.take(stretch));
}

class FrameTaker {
  private readonly fftSize: number;
  private readonly fft: FFT;
  private readonly window: Float64Array;
  private readonly windowLikeness: Float64Array;
  private readonly input: Float64Array;
  private readonly spectrum: number[];
  private readonly power: Float64Array;
  private readonly shortestLag: number;
  private readonly longestLag: number;

  constructor(
    private readonly rateHz: number,
    size: number,
  ) {
    this.fftSize = 2 ** Math.ceil(Math.log2(2 * size));
    this.fft = new FFT(this.fftSize);
    this.input = new Float64Array(this.fftSize);
    this.spectrum = this.fft.createComplexArray();
    this.power = new Float64Array(this.fftSize / 2 + 1);
    this.window = hann(size);
    this.shortestLag = Math.floor(rateHz / HIGHEST_HZ);
    this.longestLag = Math.floor(Math.min(rateHz / LOWEST_HZ, size * 0.6));
    this.input.set(this.window);
    this.transform();
    const own = this.likeness(this.power);
    this.windowLikeness = own.map((value) => Math.max(value / own[0]!, 0.05));
  }

  take(samples: Float32Array): VoiceFrame {
    const mean = meanOf(samples);
    this.input.fill(0);
    samples.forEach((x, i) => (this.input[i] = (x - mean) * this.window[i]!));
    this.transform();
    const bin = this.rateHz / this.fftSize;
    const octavePowers = OCTAVES_HZ.map((hz) => this.between(hz / bin, (2 * hz) / bin));
    const low = this.power.map((value, i) => (i * bin < PERIODIC_BELOW_HZ ? value : 0));
    return {
      ...this.period(this.likeness(low)),
      power: this.between(0, this.power.length),
      octavePowers,
    };
  }

  /** Power spectrum of what is in `input`. */
  private transform(): void {
    this.fft.realTransform(this.spectrum, this.input);
    for (let i = 0; i < this.power.length; i++) {
      this.power[i] = this.spectrum[2 * i]! ** 2 + this.spectrum[2 * i + 1]! ** 2;
    }
  }

  private between(from: number, to: number): number {
    let sum = 0;
    for (let i = Math.ceil(from); i < Math.min(to, this.power.length); i++) sum += this.power[i]!;
    return sum;
  }

  /** The autocorrelation of which `power` is the spectrum, at every lag that is looked at and one more. */
  private likeness(power: Float64Array): Float64Array {
    const both = new Float64Array(this.fftSize);
    both.set(power);
    for (let i = 1; i < this.fftSize / 2; i++) both[this.fftSize - i] = power[i]!;
    // A symmetric spectrum is its own inverse but for a factor, which does not matter here.
    this.fft.realTransform(this.spectrum, both);
    return Float64Array.from({ length: this.longestLag + 1 }, (_, lag) => this.spectrum[2 * lag]!);
  }

  private period(likeness: Float64Array): Pick<VoiceFrame, 'periodicity' | 'pitchHz'> {
    const whole = Math.max(likeness[0]!, 1e-20);
    const at = (lag: number) => likeness[lag]! / whole / this.windowLikeness[lag]!;
    let best = this.shortestLag;
    for (let lag = this.shortestLag; lag < this.longestLag; lag++) {
      if (at(lag) > at(best)) best = lag;
    }
    for (let lag = this.shortestLag + 1; lag < best; lag++) {
      if (at(lag) < NEARLY * at(best) || at(lag) < at(lag - 1) || at(lag) < at(lag + 1)) continue;
      best = lag;
      break;
    }
    return { periodicity: at(best), pitchHz: this.rateHz / best };
  }
}
