import { resampled } from '../../dsp/resample';
import { LevelMeter, type Levels } from '../../measure/level';
import { TruePeakMeter } from '../../measure/truePeak';
import { BijouError } from '../../errors';
import { blockFrames, rechunk, type Block } from '../../pcm/pcm';
import { streamOf, type PcmSource } from '../../pcm/source';
import { EarMeter, type EarFigures } from '../ear/meter';
import type { SeamFigures } from '../../loop/seam';
import { SeamMeter } from '../../loop/seam/meter';
import type { Loop } from '../../marks';
import { gradeOf, MOST_ABOVE_WORST } from '../grade';
import { cancelledShare } from '../mixdown';
import { NoiseMeter, type NoiseFigures } from './noise';
import { PreEchoMeter, type PreEcho } from './preEcho';
import { bandwidths, SpectraMeter, type BandwidthFigures } from './spectra';
import { addedTones, type AddedTone } from './tones';

/** What a decoded sound has kept of its source, and what it has not. */
export interface Fidelity extends EarFigures, NoiseFigures, BandwidthFigures {
  /** 0 (no difference) to −4 (very annoying). */
  grade: number;
  /** How much lower mixing its channels leaves it than each of them is, in dB; null where none was mixed. */
  mixdownLossDb: number | null;
  /** null where the source is not made of tones. */
  addedTones: AddedTone[] | null;
  /** null where nothing begins suddenly. */
  preEcho: { worst: PreEcho; beginnings: number } | null;
  /** Of the decoded sound. */
  truePeakDbtp: number | null;
  levels: { source: SideLevels; decoded: SideLevels };
  /** Where it repeats, of both sides: of its loop, else of all of it; null where that is too short. */
  seam: { source: SeamFigures; decoded: SeamFigures } | null;
}

/** As in `Levels`. */
type SideLevels = Pick<Levels, 'rmsDbfs' | 'correlation' | 'dcOffset'>;

const STEP_FRAMES = 16_384;

export interface FidelityOptions {
  /** True peak of the decoded sound in dBTP where it was measured before. */
  truePeakDbtp?: number | null | undefined;
  /** Where the source repeats, in its frames; all of it where nothing is said. */
  loop?: Loop | null | undefined;
  /** Gets the frames that were compared. */
  progress?: ((frames: number) => void) | undefined;
  /** As in `Fidelity`: what mixing cancelled is no longer in the source that is compared. */
  mixdownLossDb?: number | null | undefined;
  /** Is waited for every now and then, so that others get their turn, or to end it. */
  pause?: (() => Promise<void>) | undefined;
}

/**
 * Holds a decoded sound against its source, frame by frame at the rate of the source. What was decoded at another
 * rate is brought to that first; what one side has beyond the other's end is held against silence.
 * @throws not-legal where they have not as many channels
 */
export async function fidelity(
  source: PcmSource,
  decoded: PcmSource,
  { loop, truePeakDbtp, mixdownLossDb = null, progress, pause }: FidelityOptions = {},
): Promise<Fidelity> {
  const { rateHz, channelCount } = source;
  if (decoded.channelCount !== channelCount) throw notAsMany();
  const meter = new FidelityMeter(source, loop ?? wholeLoop(source), truePeakDbtp, mixdownLossDb);
  const others = steps(resampled(decoded, rateHz));
  let frames = 0;
  for await (const block of rechunk(streamOf(source), STEP_FRAMES).blocks) {
    const next = await others.next();
    meter.push(...evened(block, next.done ? silent(block, 0) : next.value));
    frames += blockFrames(block);
    progress?.(frames);
    await pause?.();
  }
  for await (const block of others) meter.push(...evened(silent(block, 0), block));
  return meter.result();
}

function wholeLoop({ frames }: PcmSource): Loop {
  return { startFrame: 0, endFrame: frames };
}

type Shape = Pick<PcmSource, 'rateHz' | 'channelCount' | 'speakerMask'>;

/** All meters of one comparison. */
class FidelityMeter {
  private readonly noise = new NoiseMeter();
  private readonly ear: EarMeter;
  private readonly spectra: SpectraMeter;
  private readonly preEcho: PreEchoMeter;
  private readonly truePeak: TruePeakMeter | null;
  private readonly seams: { source: SeamMeter; decoded: SeamMeter };
  private readonly levels: { source: LevelMeter; decoded: LevelMeter };

  constructor(
    shape: Shape,
    loop: Loop,
    private readonly knownTruePeakDbtp: number | null | undefined,
    private readonly mixdownLossDb: number | null,
  ) {
    const { rateHz, channelCount } = shape;
    this.seams = { source: new SeamMeter(shape, loop), decoded: new SeamMeter(shape, loop) };
    this.ear = new EarMeter(rateHz, channelCount);
    this.spectra = new SpectraMeter(rateHz, channelCount);
    this.preEcho = new PreEchoMeter(rateHz);
    this.truePeak =
      knownTruePeakDbtp === undefined ? new TruePeakMeter(rateHz, channelCount) : null;
    this.levels = { source: new LevelMeter(channelCount), decoded: new LevelMeter(channelCount) };
  }

  push(source: Block, decoded: Block): void {
    this.noise.push(source, decoded);
    this.ear.push(source, decoded);
    this.spectra.push(source, decoded);
    this.preEcho.push(source, decoded);
    this.truePeak?.push(decoded);
    this.levels.source.push(source);
    this.levels.decoded.push(decoded);
    this.seams.source.push(source);
    this.seams.decoded.push(decoded);
  }

  /** No better than its worst half second by more than a grade; what mixing cancelled is missing as well. */
  private gradeOf(ear: EarFigures): number {
    const cancelled = cancelledShare(this.mixdownLossDb);
    const missing = 1 - (1 - ear.missing) * (1 - cancelled);
    const mean = gradeOf({ ...ear, missing });
    const worst = ear.worstHalfSecond?.grade ?? 0;
    return Math.min(mean, Math.round(1000 * (worst + MOST_ABOVE_WORST)) / 1000);
  }

  async result(): Promise<Fidelity> {
    const ear = this.ear.result();
    const [source, decoded] = [await this.seams.source.result(), await this.seams.decoded.result()];
    const spectra = this.spectra.result();
    return {
      ...ear,
      grade: this.gradeOf(ear),
      mixdownLossDb: this.mixdownLossDb,
      ...this.noise.result(),
      ...bandwidths(spectra),
      addedTones: addedTones(spectra),
      preEcho: this.preEcho.result(),
      truePeakDbtp: this.truePeak?.result().truePeakDbtp ?? this.knownTruePeakDbtp ?? null,
      levels: { source: sideOf(this.levels.source), decoded: sideOf(this.levels.decoded) },
      seam: source && decoded && { source, decoded },
    };
  }
}

function sideOf(meter: LevelMeter): SideLevels {
  const { rmsDbfs, correlation, dcOffset } = meter.result();
  return { rmsDbfs, correlation, dcOffset };
}

async function* steps(source: PcmSource): AsyncGenerator<Block> {
  yield* rechunk(streamOf(source), STEP_FRAMES).blocks;
}

/** Both as long as the longer one. */
function evened(a: Block, b: Block): [Block, Block] {
  const frames = Math.max(blockFrames(a), blockFrames(b));
  return [filled(a, frames), filled(b, frames)];
}

function filled(block: Block, frames: number): Block {
  if (blockFrames(block) === frames) return block;
  return block.map((channel) => {
    const whole = new Float32Array(frames);
    whole.set(channel);
    return whole;
  });
}

function silent(like: Block, frames: number): Block {
  return like.map(() => new Float32Array(frames));
}

function notAsMany(): BijouError {
  return new BijouError(
    'not-legal',
    'Sounds of different numbers of channels cannot be compared.',
    'Mix the source first.',
  );
}
