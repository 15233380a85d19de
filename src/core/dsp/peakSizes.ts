import { largest } from '../pcm/largest';
import { blockFrames, type Block } from '../pcm/pcm';
import { interpolationBank, mostGain } from './filterBank';
import { runPolyphase } from './kernel/polyphase';

const TAPS = 48;
/** A value between two frames is known when so many more have come. */
export const LOOK_AHEAD = TAPS / 2;
/** Frames that are looked at together; quiet ones are passed over. */
const STRETCH = 512;

/** Finer than a true-peak meter has to look: what is held down by it is low enough for any meter. */
const PHASES = 16;
const bank = interpolationBank(PHASES, TAPS);
const gain = mostGain(bank);

/**
 * How large a sound is at and around each frame, over all channels: the largest amplitude of the frame itself
 * and of what lies between it and its neighbours. What is surely not above `floor` is answered as 0.
 */
export class PeakSizes {
  private readonly tails: Float32Array[];
  /** Largest value behind the last frame that was answered. */
  private between = 0;
  private pushed = 0;

  constructor(
    channelCount: number,
    private readonly floor: number,
  ) {
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
      const isQuiet = parts.every((part) => largest(part) * gain <= this.floor);
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
    const behind = new Float32Array(sizes.length);
    const values = new Float32Array(sizes.length * PHASES);
    for (const part of parts) {
      runPolyphase(bank, { at: 0, phase: 0, up: PHASES, down: 1 }, part, values);
      for (let i = 0; i < behind.length; i++) {
        let most = behind[i]!;
        for (let p = i * PHASES; p < (i + 1) * PHASES; p++) {
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
