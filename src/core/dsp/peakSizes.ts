import { largest } from '../pcm/largest';
import { blockFrames, type Block } from '../pcm/pcm';
import { interpolationBank, mostGain, type FilterBank } from './filterBank';
import { runPolyphase } from './kernel/polyphase';

const TAPS = 24;
/** A value between two frames is known when so many more have come. */
export const LOOK_AHEAD = TAPS / 2;
/** Frames that are looked at together; quiet ones are passed over. */
const STRETCH = 512;

const banks = new Map(
  [2, 4, 8].map((phases) => {
    const bank = interpolationBank(phases, TAPS);
    return [phases, { bank, phases, mostGain: mostGain(bank) }] as const;
  }),
);

/** Finer than a true-peak meter has to look: what is held down by it is low enough for any meter. */
function phasesAt(rateHz: number): number {
  return rateHz >= 176_000 ? 2 : rateHz >= 88_000 ? 4 : 8;
}

/**
 * How large a sound is at and around each frame, over all channels: the largest amplitude of the frame itself
 * and of what lies between it and its neighbours. What is surely not above `floor` is answered as 0.
 */
export class PeakSizes {
  private readonly tails: Float32Array[];
  private readonly filter: { bank: FilterBank; phases: number; mostGain: number };
  /** Largest value behind the last frame that was answered. */
  private between = 0;
  private pushed = 0;

  constructor(
    rateHz: number,
    channelCount: number,
    private readonly floor: number,
  ) {
    this.filter = banks.get(phasesAt(rateHz))!;
    this.tails = Array.from({ length: channelCount }, () => new Float32Array(TAPS - 1));
  }

  /** Sizes of the next frames; they come `LOOK_AHEAD` frames late. */
  push(block: Block): Float32Array {
    const frames = blockFrames(block);
    const sizes = new Float32Array(frames);
    const inputs = block.map((channel, c) => {
      const tail = this.tails[c]!;
      const input = new Float32Array(tail.length + frames);
      input.set(tail);
      input.set(channel, tail.length);
      this.tails[c] = input.slice(-tail.length);
      return input;
    });
    for (let at = 0; at < frames; at += STRETCH) {
      const end = Math.min(frames, at + STRETCH);
      const parts = inputs.map((input) => input.subarray(at, end + TAPS - 1));
      const isQuiet = parts.every((part) => largest(part) * this.filter.mostGain <= this.floor);
      if (isQuiet) this.between = 0;
      else this.look(parts, sizes.subarray(at, end));
    }
    // The first answers would lie in front of the sound.
    const early = Math.max(0, Math.min(frames, LOOK_AHEAD - this.pushed));
    this.pushed += frames;
    return sizes.subarray(early);
  }

  /** Sizes of the frames that are still to come: behind its end a sound is silent. */
  finish(): Float32Array {
    return this.push(this.tails.map(() => new Float32Array(LOOK_AHEAD)));
  }

  private look(parts: readonly Float32Array[], sizes: Float32Array): void {
    const { bank, phases } = this.filter;
    const behind = new Float32Array(sizes.length);
    const values = new Float32Array(sizes.length * phases);
    for (const part of parts) {
      runPolyphase(bank, { at: 0, phase: 0, up: phases, down: 1 }, part, values);
      for (let i = 0; i < behind.length; i++) {
        let most = behind[i]!;
        for (let p = i * phases; p < (i + 1) * phases; p++) {
          const size = Math.abs(values[p]!);
          if (size > most) most = size;
        }
        behind[i] = most;
        // The frame itself, which the filter rounds.
        const own = Math.abs(part[i + TAPS / 2 - 1]!);
        if (own > sizes[i]!) sizes[i] = own;
      }
    }
    for (let i = 0; i < sizes.length; i++) {
      sizes[i] = Math.max(sizes[i]!, this.between, behind[i]!);
      this.between = behind[i]!;
    }
  }
}
