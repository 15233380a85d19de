import type { ByteSource } from '../bytes/source';
import { openSound } from '../formats/open';
import { noSound } from '../formats/problems';
import type { Warning } from '../formats/types';
import { BijouError } from '../errors';
import type { Block, PcmStream } from '../pcm/pcm';
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
  look?: (block: Block, pcm: PcmStream) => void | Promise<void>;
  /** Called with frames read so far and, where known, in total. */
  progress?: (done: number, total: number | null) => void;
}

/** Decodes a whole file once, in blocks, and reports what it is. Believes nothing that can be counted. */
export async function probe(
  source: ByteSource,
  options: ProbeOptions = {},
): Promise<{ facts: Facts; warnings: Warning[] }> {
  const reader = await openSound(source);
  const { header, warnings } = reader;
  const pcm = reader.pcm();
  const meter = new LevelMeter(pcm.channelCount);
  for await (const block of pcm.blocks) {
    if (block.length !== pcm.channelCount) throw layoutChanges();
    meter.push(block);
    await options.look?.(block, pcm);
    options.progress?.(meter.frames, pcm.frames);
  }
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
      bytes: source.size,
      bitRateKbps: Math.round((source.size * 8) / seconds) / 1000,
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
