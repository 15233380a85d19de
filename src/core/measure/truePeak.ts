import { interpolationBank, mostGain } from '../dsp/filterBank';
import { runPolyphase } from '../dsp/kernel/polyphase';
import { largest } from '../pcm/largest';
import type { Block } from '../pcm/pcm';
import { toDb } from './decibels';

/** Flat up to nine tenths of half the rate, of which sounds at low rates are full. */
const TAPS = 48;
/**
 * Oversampling to at least 352.8 kHz, or four times (ITU-R BS.1770-5, annex 2); what lies between these values is found
 * by a curve through three of them.
 */
function phasesAt(rateHz: number): number {
  return rateHz >= 176_000 ? 2 : 4;
}
const banks = new Map(
  [2, 4].map((phases) => {
    const bank = interpolationBank(phases, TAPS);
    return [phases, { bank, mostGain: mostGain(bank) }] as const;
  }),
);

/** Frames that are looked at together; quiet ones are passed over. */
const STRETCH = 1_024;

/** Largest amplitude between the samples, by oversampling (ITU-R BS.1770-5, annex 2). */
export class TruePeakMeter {
  private readonly phases: number;
  /** The filter's look-back, per channel. */
  private readonly tails: Float32Array[];
  private peak = 0;

  constructor(rateHz: number, channelCount: number) {
    this.phases = phasesAt(rateHz);
    this.tails = Array.from({ length: channelCount }, () => new Float32Array(TAPS - 1));
  }

  push(block: Block): void {
    block.forEach((channel, c) => this.pushChannel(channel, c));
  }

  private pushChannel(channel: Float32Array, c: number): void {
    this.peak = Math.max(this.peak, largest(channel));
    if (channel.length === 0) return;
    const found = banks.get(this.phases)!;
    const tail = this.tails[c]!;
    const input = new Float32Array(tail.length + channel.length);
    input.set(tail);
    input.set(channel, tail.length);
    this.tails[c] = input.slice(-tail.length);
    // The loudest first: most others can then not reach the peak, and need not be filtered.
    for (const { part, most } of stretches(input).sort((a, b) => b.most - a.most)) {
      if (most * found.mostGain <= this.peak) return;
      const between = new Float32Array((part.length - tail.length) * this.phases);
      runPolyphase(found.bank, { at: 0, phase: 0, up: this.phases, down: 1 }, part, between);
      this.peak = largestBetween(between, this.peak);
    }
  }

  /** True peak in dBTP; the end meets silence. */
  result(): { truePeakDbtp: number | null } {
    this.tails.forEach((_, c) => this.pushChannel(new Float32Array(TAPS), c));
    return { truePeakDbtp: toDb(this.peak) };
  }
}

/** So far below the largest value known another one can still turn out to lie beside a larger peak. */
const NEAR = 0.9;

/** The largest of `least` and what a parabola through each value that is larger than its neighbours rises to. */
function largestBetween(values: Float32Array, least: number): number {
  let most = least;
  for (let i = 0; i < values.length; i++) {
    const size = Math.abs(values[i]!);
    if (size <= most * NEAR) continue;
    if (size > most) most = size;
    if (i === 0 || i === values.length - 1) continue;
    const sign = Math.sign(values[i]!);
    const [left, right] = [sign * values[i - 1]!, sign * values[i + 1]!];
    if (size < left || size < right) continue;
    const bend = 2 * size - left - right;
    if (bend > 0) most = Math.max(most, size + (left - right) ** 2 / (8 * bend));
  }
  return most;
}

/** Stretches of an input that begins with the filter's look-back; each has its own. */
function stretches(input: Float32Array): { part: Float32Array; most: number }[] {
  const count = Math.ceil((input.length - (TAPS - 1)) / STRETCH);
  return Array.from({ length: count }, (_, i) => {
    // Each begins with the last frame of the one before, so that no peak lies at an end.
    const part = input.subarray(Math.max(0, i * STRETCH - 1), (i + 1) * STRETCH + TAPS - 1);
    return { part, most: largest(part) };
  });
}
