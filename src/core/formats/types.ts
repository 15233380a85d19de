import type { ObjectSchema } from 'yup';
import type { ByteSink, ByteSource } from '../bytes/source';
import type { Marks } from '../marks';
import type { PcmStream } from '../pcm/pcm';
import type { Speaker } from '../pcm/speakers';
import type { LegalRates } from './rates';

/** Something about a file that does not stop it from being used but that its owner should know. */
export interface Warning {
  code:
    | 'truncated'
    | 'lying-length'
    | 'damaged-frames'
    | 'no-delay-header'
    | 'checksum'
    | 'clipped'
    | 'mended'
    | 'held-back'
    | 'limited'
    | 'otherwise'
    | 'extra'
    | 'not-kept'
    | 'not-finite'
    | 'many-markers'
    | 'loop-outside'
    | 'loop-not-used'
    | 'overshoot'
    | 'level-missed';
  message: string;
}

/** What a reader learns from a file's headers, before anything is decoded. */
export interface StatedHeader extends Partial<Marks> {
  container: string;
  codec: string;
  sampleRateHz: number;
  channels: number;
  /** Bits per stored sample; null for lossy codecs, which have none. */
  bitDepth: number | null;
  /** Length where the file states it in a way that can be relied on. */
  frames: number | null;
  /** Speakers as WAV's mask, where the file states them; 0 for the usual layout. */
  speakerMask?: number;
  /** The bit rate that a compressed file keeps from one packet to the next, in kbit/s. */
  constantKbps?: number | null;
  /** What the codec puts around the sound; players that ignore its header play it. */
  addedFrames?: AddedFrames;
  /** What the file says of loops and is not used, in sentences. */
  loopTroubles?: readonly string[];
  /** Rates that other fields of the file state, when they contradict `sampleRateHz`. */
  otherRates?: readonly OtherRate[];
}

/** Frames in front of the sound and behind it that belong to the codec. */
export interface AddedFrames {
  head: number;
  tail: number;
}

/** A rate that a file states in a second place. */
export interface OtherRate {
  rateHz: number;
  /** Which field says so, for people. */
  where: string;
}

/** A header with nothing left open. */
export interface SoundHeader extends Required<Omit<StatedHeader, 'loopTroubles'>> {
  /** In the order of the channels; null where nobody has said. */
  speakers: readonly Speaker[] | null;
}

/** A file that its reader has opened. `warnings` is complete once `pcm` has been read to its end. */
export interface OpenedFile {
  readonly header: StatedHeader;
  readonly warnings: Warning[];
  /** Decodes from `startFrame` (default 0) to the end. */
  pcm(startFrame?: number): PcmStream;
}

/** An opened sound, whatever file it came in. */
export interface SoundReader extends OpenedFile {
  readonly header: SoundHeader;
}

/** One kind of file that can be read. */
export interface ReaderKind {
  id: string;
  /** Trade name, for people. */
  name: string;
  /** Codecs that are understood inside, for people. */
  codecs: string;
  /** Endings that such files usually have, without the dot. */
  extensions: readonly string[];
  /** Decides from the first bytes, never from the name. */
  detect(head: Uint8Array): boolean;
  open(source: ByteSource): Promise<OpenedFile>;
}

export interface WriteResult {
  framesIn: number;
  /** Samples beyond full scale that an integer format had to hold at full scale. */
  clippedSamples: number;
}

/** One way in which a format stores samples, with the settings that choose it. */
export interface Depth {
  bits: number;
  isFloat?: true;
  settings: object;
}

/** What a container and codec may legally carry. */
export interface Legal {
  rates: LegalRates;
  channels: readonly number[];
  /** In rising order, integers first; null for codecs that have none. */
  depths: readonly Depth[] | null;
}

/** What a container can carry beside the samples. */
interface Carries {
  tags: boolean;
  loop: boolean;
  markers: boolean;
  /** Layouts other than the usual one of that many channels. */
  speakers: boolean;
}

/** A number that people set of a writer, with the values that menus offer in rising order. */
export interface Dial {
  name: 'kbps' | 'quality' | 'level';
  values: readonly number[];
  usual: number;
  /** What its ends mean, by their values. */
  says?: Readonly<Record<number, 'small' | 'best' | 'quick'>>;
}

/** One container-and-codec pair that can be written, with everything that is known about it. */
export interface WriterKind<Settings extends object = Record<string, unknown>> {
  /** The format alone for its usual codec ("ogg"), with the codec for others ("ogg-opus"). */
  id: string;
  name: string;
  /** How people ask for it: several pairs share a format and differ in codec. */
  format: string;
  /** Container and codec of the finished file, as its reader reports them. */
  container: string;
  codec: string;
  extension: string;
  mimeType: string;
  /** Part of every output's key: change it whenever the bytes it writes change. */
  version: string;
  legal: Legal;
  carries: Carries;
  /** The range of its settings, for people. */
  range: string;
  /** What people set beside the depth; where there are several, one excludes the others. */
  dials: readonly Dial[];
  /**
   * What files with these settings usually come to, least and most, in bytes a second; left out where
   * `soundBytes` always knows.
   */
  usualBytes?(settings: Settings, rateHz: number, channels: number): readonly [number, number];
  /** Validates settings and fills in the defaults. */
  settings: ObjectSchema<Settings>;
  /** Whether it holds what lies above full scale, as floating point does. */
  holdsBeyond?(settings: Settings): boolean;
  /** Whether `settings` may be used with this rate and layout; a sentence when not. */
  refuses?(settings: Settings, rateHz: number, channels: number): string | null;
  /** The nearest settings that may; only where `refuses` is given. */
  nearest?(settings: Settings, rateHz: number, channels: number): Settings;
  /**
   * So many frames beyond the ends of a sound decide how these are encoded: a loop is given them from its other end,
   * in place of silence.
   */
  reach?: number;
  /** What of the marks does not fit in the place that the format has for it, for people. */
  loses?(marks: Marks): string[];
  /**
   * What so many frames come to, in bytes, without what stands around them; null where that depends on what is
   * heard. Left out where it always does.
   */
  soundBytes?(frames: number, settings: Settings, rateHz: number, channels: number): number | null;
  /** The settings in one phrase for people: "128 kbit/s". */
  describe(settings: Settings): string;
  write(pcm: PcmStream, sink: ByteSink, settings: Settings, marks: Marks): Promise<WriteResult>;
}
