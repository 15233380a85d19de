import { interpolationBank } from '../dsp/filterBank';
import { runPolyphase } from '../dsp/kernel/polyphase';
import type { Block } from '../pcm/pcm';
import { toDb } from './decibels';

const TAPS = 24;
/** Oversampling to at least 176.4 kHz (ITU-R BS.1770-5, annex 2); four times is enough for low rates too. */
function phasesAt(rateHz: number): number {
  return rateHz >= 176_000 ? 1 : rateHz >= 88_000 ? 2 : 4;
}
const banks = new Map([2, 4].map((phases) => [phases, interpolationBank(phases, TAPS)]));

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
    const bank = banks.get(this.phases);
    if (!bank || channel.length === 0) return;
    const tail = this.tails[c]!;
    const input = new Float32Array(tail.length + channel.length);
    input.set(tail);
    input.set(channel, tail.length);
    this.tails[c] = input.slice(-tail.length);
    const between = new Float32Array(channel.length * this.phases);
    runPolyphase(bank, { at: 0, phase: 0, up: this.phases, down: 1 }, input, between);
    this.peak = Math.max(this.peak, largest(between));
  }

  /** True peak in dBTP; the end meets silence. */
  result(): { truePeakDbtp: number | null } {
    this.tails.forEach((_, c) => this.pushChannel(new Float32Array(TAPS), c));
    return { truePeakDbtp: toDb(this.peak) };
  }
}

function largest(samples: Float32Array): number {
  let most = 0;
  for (let i = 0; i < samples.length; i++) {
    const x = samples[i]!;
    const size = x < 0 ? -x : x;
    if (size > most) most = size;
  }
  return most;
}
