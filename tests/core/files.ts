import { MemorySink, memorySource } from '@/core/bytes/source';
import { openSound } from '@/core/formats/open';
import type { RawEncoding } from '@/core/formats/raw/writer';
import { writerById, writeSound } from '@/core/formats/write';
import type { Marks } from '@/core/marks';
import { BijouError } from '@/core/errors';
import { probe } from '@/core/measure/probe';
import { collectChannels, pcmFromChannels, type PcmStream } from '@/core/pcm/pcm';
import { sourceFromChannels, streamOf } from '@/core/pcm/source';
import { applyRecipe } from '@/core/recipe/recipe';
import type { Step, StepTools } from '@/core/recipe/types';
import { headerFaults } from '../../tools/headers';
import { sine } from './signals';

/** Encodes whole channels. `gridBits` says that they lie on the grid of that depth. */
export async function encode(
  channels: Float32Array[],
  rateHz: number,
  writerId: string,
  settings: object,
  gridBits?: number,
): Promise<Uint8Array> {
  const sink = new MemorySink();
  const pcm = pcmFromChannels(channels, rateHz, gridBits === undefined ? {} : { gridBits });
  return written(pcm, writerId, settings, sink);
}

/** Writes a stream; whatever a test writes has headers by the book. */
export async function written(
  pcm: PcmStream,
  writerId: string,
  settings: object,
  sink = new MemorySink(),
  marks?: Marks,
): Promise<Uint8Array> {
  await writeSound(pcm, writerId, settings, sink, marks);
  const bytes = sink.bytes();
  expect(headerFaults(writerById(writerId).container, bytes)).toEqual([]);
  return bytes;
}

export async function decode(bytes: Uint8Array, startFrame = 0) {
  const reader = await openSound(memorySource(bytes));
  const channels = await collectChannels(reader.pcm(startFrame));
  return { channels, header: reader.header, warnings: reader.warnings };
}

/** Encodes and opens what came of it; files without a head are described as they were written. */
export async function readerOf(
  channels: Float32Array[],
  rateHz: number,
  writerId: string,
  settings: object,
  gridBits?: number,
) {
  const bytes = await encode(channels, rateHz, writerId, settings, gridBits);
  const encoding = (settings as { encoding?: RawEncoding }).encoding;
  const raw =
    writerId === 'raw' && encoding ? { encoding, rateHz, channels: channels.length } : undefined;
  return openSound(memorySource(bytes), raw);
}

const tone = (writerId: string, settings: object) => {
  let made: Promise<Uint8Array> | null = null;
  return () =>
    (made ??= encode(
      [sine(44_100, 440, 44_100), sine(44_100, 660, 44_100)],
      44_100,
      writerId,
      settings,
    ));
};

/** A second of a stereo tone in a real file of every kind. Shared: copy before changing. */
export const samples = {
  wav: tone('wav', { bits: 16 }),
  mp3: tone('mp3', { kbps: 128 }),
  ogg: tone('ogg', { quality: 4 }),
  m4a: tone('m4a', { kbps: 128 }),
  aiff: tone('aiff', { bits: 24 }),
  flac: tone('flac', { bits: 16 }),
};

/** Probes bytes and answers the error that a person would be shown. */
export async function refusal(bytes: Uint8Array): Promise<BijouError> {
  const error: unknown = await probe(memorySource(bytes)).then(
    () => null,
    (thrown: unknown) => thrown,
  );
  if (error instanceof BijouError) return error;
  throw new Error(`expected a BijouError, got ${String(error)}`);
}

/** A sound of whole channels behind steps, to be read from any frame on. */
export function shaped(
  steps: Step[],
  channels: Float32Array[],
  blockFrames?: number,
  rateHz = 8_000,
  tools?: StepTools,
) {
  const source = sourceFromChannels(channels, rateHz, blockFrames ? { blockFrames } : {});
  return applyRecipe({ version: 1, steps }, source, tools);
}

/** Applies steps to whole channels. */
export async function rendered(...how: Parameters<typeof shaped>) {
  return streamOf(await shaped(...how));
}

export const step = (kind: string, params: Record<string, unknown> = {}): Step => ({
  kind,
  on: true,
  params,
});

/** What steps make of whole channels. */
export async function applySteps(
  steps: Step[],
  channels: Float32Array[],
  blockFrames?: number,
  rateHz = 8_000,
) {
  return collectChannels(await rendered(steps, channels, blockFrames, rateHz));
}
