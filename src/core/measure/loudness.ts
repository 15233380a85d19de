import type { Block, PcmStream } from '../pcm/pcm';
import { speakersOf, type Speaker } from '../pcm/speakers';
import { mean } from './statistics';

export interface Loudness {
  /** Integrated loudness; null below the absolute gate or for less than 0.4 s. */
  lufs: number | null;
  /** Loudness range (EBU Tech 3342); null for less than 3 s above the gate. */
  loudnessRangeLu: number | null;
}

/** Weights of the channels (ITU-R BS.1770-5, table 3): surrounds count 1.5 dB more, LFE does not count. */
const weights: Partial<Record<Speaker, number>> = {
  LFE: 0,
  Ls: 1.41,
  Rs: 1.41,
  Lb: 1.41,
  Rb: 1.41,
};

export function channelWeights(channelCount: number, speakerMask?: number): number[] {
  const speakers = channelCount === 1 ? null : speakersOf(channelCount, speakerMask);
  return Array.from({ length: channelCount }, (_, c) =>
    speakers ? (weights[speakers[c]!] ?? 1) : 1,
  );
}

const STEPS_PER_SECOND = 10;
/** Blocks of 0.4 s and, for the range, of 3 s, each moved on by a tenth of a second. */
const MOMENTARY_STEPS = 4;
const SHORT_TERM_STEPS = 30;
const ABSOLUTE_GATE = -70;

export const toLufs = (power: number) => -0.691 + 10 * Math.log10(power);
const toPower = (lufs: number) => 10 ** ((lufs + 0.691) / 10);

/** Second-order section in transposed direct form II. */
export interface Section {
  b0: number;
  b1: number;
  b2: number;
  a1: number;
  a2: number;
}

/**
 * The two filters of K-weighting at any rate: the analogue prototypes behind the coefficients that
 * ITU-R BS.1770-5, annex 1 gives for 48 kHz, by the bilinear transform (its tables 1 and 2 come out).
 */
export function kWeighting(rateHz: number): [shelf: Section, highPass: Section] {
  const k1 = Math.tan((Math.PI * 1681.974450955533) / rateHz);
  const q1 = 0.7071752369554196;
  const vh = 10 ** (3.999843853973347 / 20);
  const vb = vh ** 0.4996667741545416;
  const d1 = 1 + k1 / q1 + k1 * k1;
  const k2 = Math.tan((Math.PI * 38.13547087602444) / rateHz);
  const q2 = 0.5003270373238773;
  const d2 = 1 + k2 / q2 + k2 * k2;
  return [
    {
      b0: (vh + (vb * k1) / q1 + k1 * k1) / d1,
      b1: (2 * (k1 * k1 - vh)) / d1,
      b2: (vh - (vb * k1) / q1 + k1 * k1) / d1,
      a1: (2 * (k1 * k1 - 1)) / d1,
      a2: (1 - k1 / q1 + k1 * k1) / d1,
    },
    { b0: 1, b1: -2, b2: 1, a1: (2 * (k2 * k2 - 1)) / d2, a2: (1 - k2 / q2 + k2 * k2) / d2 },
  ];
}

/** What the meter has to know of a sound. */
type MeteredSound = Pick<PcmStream, 'rateHz' | 'channelCount' | 'speakerMask'>;

/** Gated loudness and its range, block by block (ITU-R BS.1770-5, EBU Tech 3341 and 3342). */
export class LoudnessMeter {
  private readonly sections: [Section, Section];
  private readonly states: Float64Array[];
  private readonly weights: number[];
  /** Weighted mean square of each finished tenth of a second. */
  private readonly steps: number[] = [];
  private open = 0;
  private filled = 0;
  private frames = 0;

  private readonly rateHz: number;

  constructor({ rateHz, channelCount, speakerMask }: MeteredSound) {
    this.rateHz = rateHz;
    this.sections = kWeighting(rateHz);
    this.states = Array.from({ length: channelCount }, () => new Float64Array(4));
    this.weights = channelWeights(channelCount, speakerMask);
  }

  push(block: Block): void {
    const frames = block[0]?.length ?? 0;
    for (let at = 0; at < frames;) {
      // Tenths of a second need not be whole frames: their ends are where they fall.
      const stepEnd = Math.round(((this.steps.length + 1) * this.rateHz) / STEPS_PER_SECOND);
      const count = Math.min(stepEnd - this.frames, frames - at);
      block.forEach((channel, c) => {
        const weight = this.weights[c]!;
        if (weight > 0) this.open += weight * this.power(channel.subarray(at, at + count), c);
      });
      at += count;
      this.filled += count;
      this.frames += count;
      if (this.frames < stepEnd) continue;
      this.steps.push(this.open / this.filled);
      this.open = 0;
      this.filled = 0;
    }
  }

  /** Sum of squares behind both filters. */
  private power(x: Float32Array, c: number): number {
    const [s, h] = this.sections;
    const state = this.states[c]!;
    let [z1 = 0, z2 = 0, z3 = 0, z4 = 0] = state;
    let sum = 0;
    for (let i = 0; i < x.length; i++) {
      const input = x[i]!;
      const shelf = s.b0 * input + z1;
      z1 = s.b1 * input - s.a1 * shelf + z2;
      z2 = s.b2 * input - s.a2 * shelf;
      const out = shelf + z3;
      z3 = -2 * shelf - h.a1 * out + z4;
      z4 = shelf - h.a2 * out;
      sum += out * out;
    }
    // Denormal numbers in a long silence would make everything slow.
    state.set([z1, z2, z3, z4].map((z) => (Math.abs(z) < 1e-30 ? 0 : z)));
    return sum;
  }

  result(): Loudness {
    return { lufs: this.integrated(), loudnessRangeLu: this.range() };
  }

  /**
   * Loudness of the loudest 0.4 s, ungated; null for silence. What is shorter is met by silence: to be asked for
   * last.
   */
  momentary(): number | null {
    const least = Math.round((MOMENTARY_STEPS * this.rateHz) / STEPS_PER_SECOND);
    const missing = Math.max(0, least - this.frames);
    if (missing > 0) this.push(this.states.map(() => new Float32Array(missing)));
    const most = this.windows(MOMENTARY_STEPS).reduce((a, b) => Math.max(a, b), 0);
    return most > 0 ? toLufs(most) : null;
  }

  private windows(length: number): number[] {
    const found: number[] = [];
    let sum = 0;
    this.steps.forEach((step, i) => {
      sum += step;
      if (i >= length) sum -= this.steps[i - length]!;
      if (i >= length - 1) found.push(Math.max(0, sum / length));
    });
    return found;
  }

  private integrated(): number | null {
    const loud = this.windows(MOMENTARY_STEPS).filter((p) => p > toPower(ABSOLUTE_GATE));
    if (loud.length === 0) return null;
    const gate = mean(loud) * 0.1;
    return toLufs(mean(loud.filter((power) => power > gate)));
  }

  private range(): number | null {
    const loud = this.windows(SHORT_TERM_STEPS).filter((p) => p >= toPower(ABSOLUTE_GATE));
    if (loud.length === 0) return null;
    const gate = mean(loud) * 0.01;
    const kept = loud.filter((power) => power >= gate).sort((a, b) => a - b);
    const at = (share: number) => kept[Math.round((kept.length - 1) * share)]!;
    return toLufs(at(0.95)) - toLufs(at(0.1));
  }
}
