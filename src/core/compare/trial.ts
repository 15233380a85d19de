import type { ByteSource } from '../bytes/source';
import { openSound, sourceOf } from '../formats/open';
import type { RawDescription } from '../formats/raw/reader';
import type { Loop } from '../marks';
import { probe } from '../measure/probe';
import type { PcmSource } from '../pcm/source';
import { fidelity, type Fidelity, type FidelityOptions } from './fidelity';
import { soundBytes } from './soundBytes';

/** What one candidate came to on one sound, as far as bytes and samples tell. */
export interface TrialFigures {
  bytes: number;
  /** Of them, what stands around the encoded sound; null where that means nothing. */
  overheadBytes: number | null;
  /** Of the file. */
  frames: number;
  sampleRateHz: number;
  channels: number;
  /** What players hear in front and behind that do not honour the file's header. */
  extraHeadFrames: number;
  extraTailFrames: number;
  fidelity: Fidelity;
}

/** Without what only a closer look shows. */
export type ListedFigures = Omit<TrialFigures, 'fidelity'> & {
  fidelity: Omit<Fidelity, 'bands' | 'curve'>;
};

/**
 * Measures an encoded file against what it was made of.
 * @param reference As many channels as the file, at the rate of the sound (`TrialPlan.reference`).
 * @throws what the reader of the file says
 */
export async function measureTrial(
  file: ByteSource,
  reference: PcmSource,
  options: FidelityOptions & { raw?: RawDescription | undefined; loop?: Loop | null } = {},
): Promise<TrialFigures> {
  const reader = await openSound(file, options.raw);
  const { header } = reader;
  const frames = header.frames ?? (await probe(file, options)).facts.frames;
  const around = await soundBytes(file, header.container);
  return {
    bytes: file.size,
    overheadBytes: around === null ? null : file.size - around,
    frames,
    sampleRateHz: header.sampleRateHz,
    channels: header.channels,
    extraHeadFrames: header.addedFrames.head,
    extraTailFrames: header.addedFrames.tail,
    fidelity: await fidelity(reference, sourceOf(reader, frames), options),
  };
}
