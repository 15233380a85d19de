import { Resampler } from '../../dsp/resample';
import { powerToDb } from '../../measure/decibels';
import { blockFrames, type Block } from '../../pcm/pcm';
import { emptyChannels } from '../../pcm/source';
import { earBands } from './bands';
import {
  DISTURBED_DB,
  EAR_FRAME,
  EAR_HOP,
  EAR_RATE_HZ,
  EarChannel,
  type EarFrame,
} from './channel';
import { EarSpan, LEAST_RATIO } from './span';

/** What the ear finds in a decoded sound that was not in its source. Levels are dB, null where there is nothing. */
export interface EarFigures {
  /** Total noise-to-mask ratio: the mean over bands, frames and channels; null where nothing differs. */
  nmrDb: number | null;
  /** The share of frames, 0 to 1, in which noise rises above its mask in any band. */
  disturbed: number;
  /** The share of the source's loudness, 0 to 1, that is gone: bands and moments that are quieter than they were. */
  missing: number;
  /** The share of frames, 0 to 1, in which the source lies below what the model hears at all. */
  unheard: number;
  /** The worst half second; null where nothing is heard. */
  worstHalfSecond: { seconds: number; grade: number } | null;
  /** Means over time by band of the ear, as in `earBands`; dB of sound pressure. */
  bands: { noiseDb: Levels; maskDb: Levels; waveNoiseDb: Levels };
  /** The worst moments, the worst first, none close to another. */
  worst: WorstFrame[];
  /** The largest noise-to-mask ratio in equal steps of time, from the beginning on. */
  curve: { stepSeconds: number; nmrDb: Levels };
}

type Levels = (number | null)[];

export interface WorstFrame {
  /** The middle of the frame. */
  seconds: number;
  nmrDb: number;
  /** Centre of the band in which noise stands out most. */
  hz: number;
}

const MOST_WORST = 8;
const APART_SECONDS = 0.25;
const MOST_POINTS = 600;
const count = earBands.length;
const disturbing = 10 ** (DISTURBED_DB / 10);
/** Half a second of frames. */
const HALF_FRAMES = Math.round((0.5 * EAR_RATE_HZ) / EAR_HOP);

/** Runs the ear over a source and what was decoded of it, both of one rate and as many channels, block by block. */
export class EarMeter {
  private readonly channels: EarChannel[];
  private readonly sides: readonly [Side, Side];
  /** What the first frame begins with: its middle is the first sample. */
  private held: [Float32Array[], Float32Array[]];
  private readonly sums = {
    noise: new Float64Array(count),
    mask: new Float64Array(count),
    waveNoise: new Float64Array(count),
  };
  /** By frame: mean ratio of noise to mask in the worse channel, and its worst band. */
  private readonly ratios: number[] = [];
  private readonly bands: number[] = [];
  private total = 0;
  private heard = 0;
  private disturbed = 0;
  private audible = 0;
  private half = new EarSpan();
  private halfAt = 0;
  private worstHalf: { seconds: number; grade: number } | null = null;
  private readonly loudness = { whole: 0, missing: 0 };

  constructor(rateHz: number, channelCount: number) {
    this.channels = Array.from({ length: channelCount }, () => new EarChannel());
    this.sides = [new Side(rateHz, channelCount), new Side(rateHz, channelCount)];
    this.held = [emptyChannels(channelCount, EAR_HOP), emptyChannels(channelCount, EAR_HOP)];
  }

  push(source: Block, decoded: Block): void {
    this.add([this.sides[0].push(source), this.sides[1].push(decoded)]);
  }

  result(): EarFigures {
    const ends = [this.sides[0].finish(), this.sides[1].finish()] as const;
    const silence = emptyChannels(this.channels.length, EAR_FRAME - 1);
    this.add(ends);
    this.add([silence, silence]);
    this.closeHalf(HALF_FRAMES / 2);
    const frames = Math.max(1, this.heard * this.channels.length);
    const levels = (sums: Float64Array): Levels =>
      Array.from(sums, (sum) => powerToDb(sum / frames));
    return {
      nmrDb: ratioDb(this.total / Math.max(1, this.heard)),
      disturbed: this.disturbed / Math.max(1, this.heard),
      missing: this.loudness.whole > 0 ? this.loudness.missing / this.loudness.whole : 0,
      unheard: this.heard > 0 ? 1 - this.audible / this.heard : 0,
      worstHalfSecond: this.worstHalf,
      bands: {
        noiseDb: levels(this.sums.noise),
        maskDb: levels(this.sums.mask),
        waveNoiseDb: levels(this.sums.waveNoise),
      },
      worst: this.worst(),
      curve: this.curve(),
    };
  }

  private add(blocks: readonly [Block, Block]): void {
    this.held = this.held.map((held, side) => joined(held, blocks[side]!)) as typeof this.held;
    const [source, decoded] = this.held;
    const ready = Math.min(blockFrames(source), blockFrames(decoded));
    let at = 0;
    for (; at + EAR_FRAME <= ready; at += EAR_HOP) this.frame(source, decoded, at);
    this.held = this.held.map((held) => held.map((one) => one.slice(at))) as typeof this.held;
  }

  private frame(source: Block, decoded: Block, at: number): void {
    let worst = { ratio: 0, band: 0 };
    const isHeard = [...source, ...decoded].some((channel) => !isSilent(channel, at));
    let [sum, isDisturbed, isAudible] = [0, false, false];
    this.channels.forEach((channel, c) => {
      // What rang before goes on fading in silence.
      const frame = channel.push(source[c]!, decoded[c]!, at);
      if (!isHeard) return;
      const found = this.ratioOf(frame);
      sum += found.ratio;
      if (found.most >= disturbing) isDisturbed = true;
      if (frame.isAudible) isAudible = true;
      this.half.addBands(frame.source, frame.decoded);
      if (found.ratio > worst.ratio) worst = found;
    });
    this.ratios.push(worst.ratio);
    this.bands.push(worst.band);
    if (!isHeard) return;
    this.heard++;
    this.total += sum / this.channels.length;
    if (isDisturbed) this.disturbed++;
    if (isAudible) this.audible++;
    this.half.addFrame(sum / this.channels.length, isDisturbed);
    if (this.half.frames === HALF_FRAMES) this.closeHalf(HALF_FRAMES);
  }

  /** Looks what a half second has come to; one of fewer frames than `least` counts only where it is the first. */
  private closeHalf(least: number): void {
    const channels = this.channels.length;
    const { whole, missing } = this.half.loudness(channels);
    this.loudness.whole += whole * this.half.frames;
    this.loudness.missing += missing * this.half.frames;
    if (this.half.frames > 0 && (this.half.frames >= least || !this.worstHalf)) {
      const grade = this.half.grade(channels);
      if (!this.worstHalf || grade < this.worstHalf.grade) {
        this.worstHalf = { seconds: (this.halfAt * EAR_HOP) / EAR_RATE_HZ, grade };
      }
    }
    this.half = new EarSpan();
    this.halfAt = this.ratios.length;
  }

  private ratioOf(frame: EarFrame) {
    let [sum, most, band] = [0, 0, 0];
    for (let k = 0; k < count; k++) {
      const ratio = frame.noise[k]! / frame.mask[k]!;
      sum += ratio;
      if (ratio > most) [most, band] = [ratio, k];
      this.sums.noise[k]! += frame.noise[k]!;
      this.sums.mask[k]! += frame.mask[k]!;
      this.sums.waveNoise[k]! += frame.waveNoise[k]!;
    }
    return { ratio: sum / count, most, band };
  }

  private worst(): WorstFrame[] {
    const order = this.ratios
      .map((ratio, i) => ({ ratio, i }))
      .filter(({ ratio }) => ratio > LEAST_RATIO)
      .sort((a, b) => b.ratio - a.ratio);
    const chosen: typeof order = [];
    const apart = (APART_SECONDS * EAR_RATE_HZ) / EAR_HOP;
    for (const one of order) {
      if (chosen.length === MOST_WORST) break;
      if (chosen.every(({ i }) => Math.abs(i - one.i) >= apart)) chosen.push(one);
    }
    return chosen.map(({ ratio, i }) => ({
      seconds: (i * EAR_HOP) / EAR_RATE_HZ,
      nmrDb: 10 * Math.log10(ratio),
      hz: Math.round(earBands[this.bands[i]!]!.centreHz),
    }));
  }

  private curve(): EarFigures['curve'] {
    const together = Math.max(1, Math.ceil(this.ratios.length / MOST_POINTS));
    const points = Math.ceil(this.ratios.length / together);
    return {
      stepSeconds: (together * EAR_HOP) / EAR_RATE_HZ,
      nmrDb: Array.from({ length: points }, (_, i) =>
        ratioDb(Math.max(...this.ratios.slice(i * together, (i + 1) * together))),
      ),
    };
  }
}

function ratioDb(ratio: number): number | null {
  return ratio > LEAST_RATIO ? powerToDb(ratio) : null;
}

/** Brings one side to the rate of the ear. */
class Side {
  private readonly resampler: Resampler | null;

  constructor(
    rateHz: number,
    private readonly channelCount: number,
  ) {
    this.resampler =
      rateHz === EAR_RATE_HZ
        ? null
        : new Resampler(rateHz, EAR_RATE_HZ, channelCount, earBands.at(-1)!.toHz);
  }

  push(block: Block): Block {
    return this.resampler?.push(block) ?? block;
  }

  finish(): Block {
    return this.resampler?.finish() ?? emptyChannels(this.channelCount, 0);
  }
}

function joined(held: Block, block: Block): Float32Array[] {
  return held.map((channel, c) => {
    const whole = new Float32Array(channel.length + block[c]!.length);
    whole.set(channel);
    whole.set(block[c]!, channel.length);
    return whole;
  });
}

function isSilent(channel: Float32Array, at: number): boolean {
  for (let i = at; i < at + EAR_FRAME; i++) if (channel[i] !== 0) return false;
  return true;
}
