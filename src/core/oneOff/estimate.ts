import type { ByteSink } from '../bytes/source';
import { filledSettings, writerById, writeSound } from '../formats/write';
import { noMarks, type Marks } from '../marks';
import {
  blockFrames,
  pcmFromChannels,
  rechunk,
  sliceBlock,
  type Block,
  type PcmStream,
} from '../pcm/pcm';
import { streamOf, type PcmSource } from '../pcm/source';

/** What a file will come to. */
export interface Estimate {
  bytes: number;
  /** Known, and not concluded from a part of the sound. */
  isExact: boolean;
}

/** A sound is looked at in so many places, so long each; a shorter one is encoded whole. */
const PLACES = 10;
const PLACE_SECONDS = 0.8;

interface EstimateOptions {
  marks?: Marks;
  /** Whether reading from any frame on is quick; else the sound is read once, in order. */
  isEntered?: boolean;
  /** Is waited for every now and then, so that others get their turn. */
  pause?: () => Promise<void>;
}

/**
 * What a sound will come to as a file: counted where its length decides, else concluded from what some seconds
 * of it come to, taken from all over it.
 * @throws not-legal and bad-setting as the writer does, and whatever `pause` throws.
 */
export async function estimateBytes(
  sound: PcmSource,
  writer: string,
  settings: object,
  { marks = noMarks, isEntered = true, pause }: EstimateOptions = {},
): Promise<Estimate> {
  const kind = writerById(writer);
  const filled = filledSettings(kind, settings);
  const { frames, rateHz, channelCount } = sound;
  const bytesFor = (length: number) => kind.soundBytes?.(length, filled, rateHz, channelCount);
  const known = bytesFor(frames) ?? null;
  const written = (pcm: PcmStream) =>
    bytesWritten(pause ? pausing(pcm, pause) : pcm, writer, settings, marks);
  const placeFrames = Math.ceil(PLACE_SECONDS * rateHz);
  if (known === null && frames <= PLACES * placeFrames) {
    const bytes = await written(streamOf(sound));
    return { bytes, isExact: true };
  }
  // What stands around the sound is what one frame of silence leaves over.
  const one = pcmFromChannels(silence(channelCount), rateHz);
  const around = await written(one);
  if (known !== null) return { bytes: around - (bytesFor(1) ?? 0) + known, isExact: true };
  const parts = await partsOf(sound, placeFrames, isEntered);
  const read = parts.reduce((sum, block) => sum + blockFrames(block), 0);
  const stream = { ...streamOf(sound), frames: read, blocks: inOrder(parts) };
  const part = await written(stream);
  return { bytes: Math.round(around + ((part - around) * frames) / read), isExact: false };
}

/** What a stream comes to when it is written, in bytes. */
async function bytesWritten(
  pcm: PcmStream,
  writer: string,
  settings: object,
  marks: Marks,
): Promise<number> {
  const sink = new CountingSink();
  await writeSound(pcm, writer, settings, sink, marks);
  return sink.bytes;
}

/** Frames between pauses: some milliseconds of the slowest encoder. */
const PAUSE_FRAMES = 8_192;

function pausing(pcm: PcmStream, pause: () => Promise<void>): PcmStream {
  async function* blocks(): AsyncGenerator<Block> {
    for await (const block of rechunk(pcm, PAUSE_FRAMES).blocks) {
      await pause();
      yield block;
    }
  }
  return { ...pcm, blocks: blocks() };
}

class CountingSink implements ByteSink {
  bytes = 0;

  write(bytes: Uint8Array, at = this.bytes): Promise<void> {
    this.bytes = Math.max(this.bytes, at + bytes.length);
    return Promise.resolve();
  }
}

function silence(channelCount: number): Float32Array[] {
  return Array.from({ length: channelCount }, () => new Float32Array(1));
}

async function* inOrder(parts: readonly Block[]): AsyncGenerator<Block> {
  yield* parts;
}

/** Pieces from all over a sound, at equal distances. */
async function partsOf(sound: PcmSource, frames: number, isEntered: boolean): Promise<Block[]> {
  const gap = (sound.frames - frames) / (PLACES - 1);
  const spans = Array.from({ length: PLACES }, (_, i) => {
    const start = Math.round(i * gap);
    return { start, end: start + frames };
  });
  if (!isEntered) return cutOut(sound, 0, spans);
  const parts = await Promise.all(spans.map((span) => cutOut(sound, span.start, [span])));
  return parts.flat();
}

/** Reads from `from` on until the last of the spans, which do not overlap, and keeps what lies in them. */
async function cutOut(
  sound: PcmSource,
  from: number,
  spans: readonly { start: number; end: number }[],
): Promise<Block[]> {
  const found: Block[] = [];
  let at = from;
  for await (const block of sound.from(from)) {
    const end = at + blockFrames(block);
    for (const span of spans) {
      if (span.start >= end || span.end <= at) continue;
      const part = sliceBlock(block, Math.max(0, span.start - at), Math.min(end, span.end) - at);
      found.push(part.map((channel) => channel.slice()));
    }
    at = end;
    if (at >= spans.at(-1)!.end) break;
  }
  return found;
}
