import type { Block } from '../pcm/pcm';
import { ClippingMeter, type Clipping } from './clipping';
import { GridMeter } from './grid';
import { LevelMeter, type Levels } from './level';
import { LoudnessMeter, type Loudness } from './loudness';
import { SilenceMeter, type Silence } from './silence';
import { SpectrumMeter, type SpectrumFacts } from './spectrum';
import { TruePeakMeter } from './truePeak';

/** Everything that is measured on the samples themselves. */
export interface Measures extends Levels, Loudness, Clipping, Silence, SpectrumFacts {
  truePeakDbtp: number | null;
  usedBits: number | null;
}

export interface AnalysedShape {
  rateHz: number;
  channelCount: number;
  speakerMask?: number | undefined;
  /** Of the file, where it has one. */
  bitDepth: number | null;
}

/** All meters in one pass. */
export class Analyser {
  private readonly level: LevelMeter;
  private readonly truePeak: TruePeakMeter;
  private readonly loudness: LoudnessMeter;
  private readonly clipping: ClippingMeter;
  private readonly silence: SilenceMeter;
  private readonly grid = new GridMeter();
  private readonly spectrum: SpectrumMeter;

  constructor(shape: AnalysedShape) {
    const { rateHz, channelCount, bitDepth } = shape;
    this.level = new LevelMeter(channelCount);
    this.truePeak = new TruePeakMeter(rateHz, channelCount);
    this.loudness = new LoudnessMeter(shape);
    this.clipping = new ClippingMeter(channelCount, bitDepth);
    this.silence = new SilenceMeter(rateHz);
    this.spectrum = new SpectrumMeter(rateHz, channelCount);
  }

  get frames(): number {
    return this.level.frames;
  }

  push(block: Block): void {
    this.level.push(block);
    this.truePeak.push(block);
    this.loudness.push(block);
    this.clipping.push(block);
    this.silence.push(block);
    this.grid.push(block);
    this.spectrum.push(block);
  }

  /** To be asked once, behind the last block. */
  result(): Measures {
    return {
      ...this.level.result(),
      ...this.truePeak.result(),
      ...this.loudness.result(),
      ...this.clipping.result(),
      ...this.silence.result(),
      ...this.grid.result(),
      ...this.spectrum.result(),
    };
  }
}
