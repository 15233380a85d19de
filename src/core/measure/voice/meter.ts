import { blockFrames, type Block } from '../../pcm/pcm';
import { voiceLikelihood, voicePace, type VoicePace } from './pace';
import { voiceTraits, type VoiceTraits } from './traits';

/** So much of a voice is enough. */
const SECONDS = 8;
/** The largest multiple of its rate at which a sound is read. */
const MOST_TIMES = 2;
/** What comes before the first sample above this is not kept. */
const QUIET = 0.003;

/** Keeps the first seconds of a sound, all channels together, to say at which speed a voice in it speaks. */
export class VoiceMeter {
  private readonly kept: Float32Array;
  private filled = 0;

  constructor(private readonly rateHz: number) {
    this.kept = new Float32Array(Math.ceil(rateHz * SECONDS * MOST_TIMES));
  }

  get isFull(): boolean {
    return this.filled === this.kept.length;
  }

  push(block: Block): void {
    const frames = blockFrames(block);
    for (let i = 0; i < frames && !this.isFull; i++) {
      let sum = 0;
      for (const channel of block) sum += channel[i]!;
      const sample = sum / block.length;
      if (this.filled === 0 && Math.abs(sample) < QUIET) continue;
      this.kept[this.filled++] = sample;
    }
  }

  /** The traits of a voice in it, were its rate so many times what it is; null where none is heard. */
  read(factor: number): VoiceTraits | null {
    const readHz = Math.round(this.rateHz * factor);
    return voiceTraits(this.kept.subarray(0, Math.min(this.filled, readHz * SECONDS)), readHz);
  }

  /** How likely it is that this is a voice, 0 to 1. */
  likelihood(): number {
    return voiceLikelihood(this.read(1));
  }

  /** null where no voice is heard, or nothing for sure. */
  result(): VoicePace | null {
    return voicePace((factor) => this.read(factor));
  }
}
