import type { ObjectSchema } from 'yup';
import type { ByteSink, ByteSource } from '../bytes/source';
import type { PcmStream } from '../pcm/pcm';

/** Something about a file that does not stop it from being used but that its owner should know. */
export interface Warning {
  code: 'truncated' | 'lying-length' | 'damaged-frames' | 'no-delay-header' | 'clipped' | 'extra';
  message: string;
}

/** What a file says of itself, before anything is decoded. */
export interface SoundHeader {
  container: string;
  codec: string;
  sampleRateHz: number;
  channels: number;
  /** Bits per stored sample; null for lossy codecs, which have none. */
  bitDepth: number | null;
  /** Length where the file states it in a way that can be relied on. */
  frames: number | null;
}

/** An opened file. `warnings` is complete once `pcm` has been read to its end. */
export interface SoundReader {
  readonly header: SoundHeader;
  readonly warnings: Warning[];
  /** Decodes from `startFrame` (default 0) to the end. */
  pcm(startFrame?: number): PcmStream;
}

/** One kind of file that can be read. */
export interface ReaderKind {
  id: string;
  /** Trade name, for people. */
  name: string;
  /** Decides from the first bytes, never from the name. */
  detect(head: Uint8Array): boolean;
  open(source: ByteSource): Promise<SoundReader>;
}

export interface WriteResult {
  framesIn: number;
  /** Samples beyond full scale that an integer format had to hold at full scale. */
  clippedSamples: number;
}

/** What a container and codec may legally carry. */
interface Legal {
  /** Sample rates in Hz; null for any from 1,000 to 768,000. */
  rates: readonly number[] | null;
  channels: readonly number[];
}

/** One container-and-codec pair that can be written, with everything that is known about it. */
export interface WriterKind<Settings extends object = Record<string, unknown>> {
  id: string;
  name: string;
  container: string;
  codec: string;
  extension: string;
  mimeType: string;
  /** Part of every output's key: change it whenever the bytes it writes change. */
  version: string;
  legal: Legal;
  /** Validates settings and fills in the defaults. */
  settings: ObjectSchema<Settings>;
  /** Whether `settings` may be used with this rate and layout; a sentence when not. */
  refuses?(settings: Settings, rateHz: number, channels: number): string | null;
  /** The settings in one phrase for people: "128 kbit/s". */
  describe(settings: Settings): string;
  write(pcm: PcmStream, sink: ByteSink, settings: Settings): Promise<WriteResult>;
}
