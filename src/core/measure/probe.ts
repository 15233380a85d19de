import type { ByteSource } from '../bytes/source';
import { loopInside, openSound } from '../formats/open';
import { noSound } from '../formats/problems';
import type { RawDescription } from '../formats/raw/reader';
import type { AddedFrames, OtherRate, SoundHeader, SoundReader, Warning } from '../formats/types';
import { BijouError } from '../errors';
import type { SeamFigures } from '../loop/seam';
import { SeamMeter } from '../loop/seam/meter';
import { noMarks, type Loop, type Marks } from '../marks';
import { tap, type Block, type PcmStream } from '../pcm/pcm';
import { Analyser, type Measures } from './analyser';
import { count } from '../tradeNames';
import { plural } from '../words';
import { VoiceMeter } from './voice/meter';
import type { VoicePace } from './voice/pace';

/** Everything that is known of a sound after reading it to its end. */
export interface Facts
  extends
    Measures,
    Marks,
    Pick<
      SoundHeader,
      'container' | 'codec' | 'sampleRateHz' | 'channels' | 'bitDepth' | 'speakers' | 'speakerMask'
    > {
  frames: number;
  seconds: number;
  bytes: number;
  bitRateKbps: number;
  addedFrames: AddedFrames;
  /** The bit rate that the file keeps all the time; null for one that varies. */
  constantKbps: number | null;
  otherRates: readonly OtherRate[];
  /** Of the loop that the file states, where it runs forward. */
  seam: SeamFigures | null;
}

/** The facts that lists carry: all but the picture of the spectrum, which is as large as all others. */
export type ListedFacts = Omit<Facts, 'spectrum'>;

/** Without the spectrum, at which hardly anybody looks. */
export function listedFacts(facts: Facts): ListedFacts {
  const listed: Partial<Facts> = { ...facts };
  delete listed.spectrum;
  return listed as ListedFacts;
}

/** Stands in for what a sound that was read by an older Bijou was not asked yet. */
export const unmeasured = {
  ...noMarks,
  speakers: null,
  speakerMask: 0,
  addedFrames: { head: 0, tail: 0 },
  otherRates: [],
  constantKbps: null,
  seam: null,
  dcOffset: 0,
  identicalChannels: false,
  truePeakDbtp: null,
  lufs: null,
  loudnessRangeLu: null,
  clippedRuns: 0,
  clippedPlaces: [],
  headSilenceSeconds: 0,
  tailSilenceSeconds: 0,
  bandwidthHz: null,
  shelfHz: null,
  usedBits: null,
} satisfies Partial<ListedFacts>;

export interface ProbeOptions {
  /** Sees every block on its way, e.g. to build the peak pyramid. */
  look?: (block: Block) => void;
  /** Describes a file without a header. */
  raw?: RawDescription | undefined;
  /** Where it repeats, where the file itself has no place for that. */
  loop?: Loop | null | undefined;
  /** Whether it is asked at which speed a voice in it speaks: that takes longer than all other measures. */
  voice?: boolean | undefined;
  /** Called with frames read so far and, where known, in total. */
  progress?: (done: number, total: number | null) => void;
}

export interface Probed {
  facts: Facts;
  warnings: Warning[];
  /** Of a voice at twice or half its speed, where that was asked. */
  pace: VoicePace | null;
}

/**
 * The sound of an opened file, measured while somebody reads it. `result` may be asked for once the
 * stream is at its end. It believes nothing that can be counted.
 */
export function measured(
  reader: SoundReader,
  bytes: number,
  options: ProbeOptions = {},
): { pcm: PcmStream; result: () => Promise<Probed> } {
  const whole = reader.pcm();
  const { rateHz, channelCount, speakerMask } = whole;
  const { bitDepth } = reader.header;
  const shape = { rateHz, channelCount, speakerMask };
  const meter = new Analyser({ ...shape, bitDepth });
  const loop = reader.header.loop ?? options.loop;
  const seam = loop && new SeamMeter(shape, loop);
  const voice = options.voice ? new VoiceMeter(rateHz) : null;
  const pcm = tap(whole, (block) => {
    if (block.length !== whole.channelCount) throw layoutChanges();
    meter.push(block);
    seam?.push(block);
    voice?.push(block);
    options.look?.(block);
    options.progress?.(meter.frames, whole.frames);
  });
  return {
    pcm,
    result: async () => ({
      ...conclude(reader, bytes, meter, (await seam?.result()) ?? null),
      pace: voice?.result() ?? null,
    }),
  };
}

/** Decodes a whole file once, in blocks, and reports what it is. */
export async function probe(source: ByteSource, options: ProbeOptions = {}): Promise<Probed> {
  const { pcm, result } = measured(await openSound(source, options.raw), source.size, options);
  for await (const block of pcm.blocks) void block;
  return result();
}

function conclude(
  { header, warnings }: SoundReader,
  bytes: number,
  meter: Analyser,
  seam: SeamFigures | null,
): Omit<Probed, 'pace'> {
  if (meter.frames === 0) throw noSound(header.container.toUpperCase());
  const seconds = meter.frames / header.sampleRateHz;
  const missing = header.frames === null ? 0 : header.frames - meter.frames;
  if (missing > 0 && !warnings.some((w) => w.code === 'truncated' || w.code === 'damaged-frames')) {
    warnings.push({
      code: 'truncated',
      message: `The header promises ${plural(header.frames ?? 0, 'frame')}; only ${count(meter.frames)} could be decoded.`,
    });
  }
  const { sampleRateHz, channels, bitDepth, ...stated } = header;
  const measures = meter.result();
  return {
    facts: {
      ...stated,
      // Where the header did not know the length.
      loop: loopInside(stated.loop, meter.frames, warnings),
      sampleRateHz,
      channels,
      bitDepth,
      frames: meter.frames,
      seconds,
      bytes,
      bitRateKbps: Math.round((bytes * 8) / seconds) / 1000,
      constantKbps: stated.constantKbps ?? plainKbps(header),
      ...measures,
      seam,
      // What a lossy codec gives back lies on no grid of its own.
      usedBits: bitDepth === null ? null : measures.usedBits,
    },
    warnings,
  };
}

/** Of samples that take the same room each, in kbit/s. */
function plainKbps({ codec, sampleRateHz, channels, bitDepth }: SoundHeader): number | null {
  const isPlain = PLAIN_CODECS.has(codec);
  return isPlain && bitDepth !== null ? (sampleRateHz * channels * bitDepth) / 1000 : null;
}

const PLAIN_CODECS = new Set(['pcm', 'float', 'alaw', 'ulaw', 'ima-adpcm']);

function layoutChanges(): BijouError {
  return new BijouError(
    'damaged-sound',
    'The number of channels changes in the middle of the file.',
    'Export the sound again with one layout.',
  );
}
