import { gradeOf } from '../grade';
import { innerNoise } from './channel';
import { earBands } from './bands';

/** Loudness of a band grows about so with its power (Zwicker and Fastl, "Psychoacoustics", 8.7). */
export const LOUDNESS_POWER = 0.23;

const count = earBands.length;

/** Sums over a stretch of time: what was heard, and what of it is gone. */
export class EarSpan {
  frames = 0;
  private total = 0;
  private disturbed = 0;
  private readonly source = new Float64Array(count);
  private readonly decoded = new Float64Array(count);

  /** A frame of one channel. */
  addBands(source: Float64Array, decoded: Float64Array): void {
    for (let band = 0; band < count; band++) {
      this.source[band]! += source[band]!;
      this.decoded[band]! += decoded[band]!;
    }
  }

  /** A frame of all channels: its ratio of noise to mask, and whether noise is heard in it. */
  addFrame(ratio: number, isDisturbed: boolean): void {
    this.frames++;
    this.total += ratio;
    if (isDisturbed) this.disturbed++;
  }

  /** Loudness of the source, in units of its own, and how much of it the decoded sound lacks. */
  loudness(channelCount: number): { whole: number; missing: number } {
    const own = innerNoise();
    let [whole, missing] = [0, 0];
    const frames = Math.max(1, this.frames * channelCount);
    for (let band = 0; band < count; band++) {
      const still = own[band]! ** LOUDNESS_POWER;
      const heard = (sum: number) => (sum / frames + own[band]!) ** LOUDNESS_POWER - still;
      const source = heard(this.source[band]!);
      whole += source;
      missing += Math.max(0, source - heard(this.decoded[band]!));
    }
    return { whole, missing };
  }

  /** As gradeOf takes them. */
  figures(channelCount: number): { nmrDb: number | null; disturbed: number; missing: number } {
    const frames = Math.max(1, this.frames);
    const ratio = this.total / frames;
    const { whole, missing } = this.loudness(channelCount);
    return {
      nmrDb: ratio > LEAST_RATIO ? 10 * Math.log10(ratio) : null,
      disturbed: this.disturbed / frames,
      missing: whole > 0 ? missing / whole : 0,
    };
  }

  grade(channelCount: number): number {
    return gradeOf(this.figures(channelCount));
  }
}

/** Ratios below −200 dB are what arithmetic leaves over. */
export const LEAST_RATIO = 1e-20;
