import type { ByteSource } from '../bytes/source';
import { openSound } from '../formats/open';
import { noSound } from '../formats/problems';
import type { SoundReader, Warning } from '../formats/types';
import { BijouError } from '../errors';
import { tap, type Block, type PcmStream } from '../pcm/pcm';
import { LevelMeter, type Levels } from './level';

/** Everything that is known of a sound after reading it to its end. */
export interface Facts extends Levels {
  container: string;
  codec: string;
  sampleRateHz: number;
  channels: number;
  bitDepth: number | null;
  frames: number;
  seconds: number;
  bytes: number;
  bitRateKbps: number;
}

export interface ProbeOptions {
  /** Sees every block on its way, e.g. to build the peak pyramid. */
  look?: (block: Block) => void;
  /** Called with frames read so far and, where known, in total. */
  progress?: (done: number, total: number | null) => void;
}

export interface Probed {
  facts: Facts;
  warnings: Warning[];
}

/**
 * The sound of an opened file, measured while somebody reads it. `result` may be asked for once the
 * stream is at its end. It believes nothing that can be counted.
 */
export function measured(
  reader: SoundReader,
  bytes: number,
  options: ProbeOptions = {},
): { pcm: PcmStream; result: () => Probed } {
  const whole = reader.pcm();
  const meter = new LevelMeter(whole.channelCount);
  const pcm = tap(whole, (block) => {
    if (block.length !== whole.channelCount) throw layoutChanges();
    meter.push(block);
    options.look?.(block);
    options.progress?.(meter.frames, whole.frames);
  });
  return { pcm, result: () => conclude(reader, bytes, meter) };
}

/** Decodes a whole file once, in blocks, and reports what it is. */
export async function probe(source: ByteSource, options: ProbeOptions = {}): Promise<Probed> {
  const { pcm, result } = measured(await openSound(source), source.size, options);
  for await (const block of pcm.blocks) void block;
  return result();
}

function conclude({ header, warnings }: SoundReader, bytes: number, meter: LevelMeter): Probed {
  if (meter.frames === 0) throw noSound(header.container.toUpperCase());
  const seconds = meter.frames / header.sampleRateHz;
  const missing = header.frames === null ? 0 : header.frames - meter.frames;
  if (missing > 0 && !warnings.some((w) => w.code === 'truncated' || w.code === 'damaged-frames')) {
    warnings.push({
      code: 'truncated',
      message: `The header promises ${header.frames} frames; only ${meter.frames} could be decoded.`,
    });
  }
  return {
    facts: {
      container: header.container,
      codec: header.codec,
      sampleRateHz: header.sampleRateHz,
      channels: header.channels,
      bitDepth: header.bitDepth,
      frames: meter.frames,
      seconds,
      bytes,
      bitRateKbps: Math.round((bytes * 8) / seconds) / 1000,
      ...meter.levels(),
    },
    warnings,
  };
}

function layoutChanges(): BijouError {
  return new BijouError(
    'damaged-sound',
    'The number of channels changes in the middle of the file.',
    'Export the sound again with one layout.',
  );
}
