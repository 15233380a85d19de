import type { ByteSink } from '../bytes/source';
import { aroundLoop } from '../formats/around';
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
import { emptyChannels, streamOf, type PcmSource } from '../pcm/source';

/** What a file will come to. */
export interface Estimate {
  bytes: number;
  /** Known, and not concluded from a part of the sound. */
  isExact: boolean;
}

/** A sound is looked at in so many places, so long each; a shorter one is encoded whole. */
const PLACES = 16;
const PLACE_SECONDS = 0.8;
/**
 * What was encoded once takes fewer bits the second time where the blocks of both lie alike: so do those of the places
 * and of the whole. Holds whole blocks of every codec (1,024, 1,152 and 2,048 frames).
 */
const GRID_FRAMES = 18_432;
const FADE_FRAMES = 2_048;

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
  // A loop is encoded with some of its other end around it.
  const sides = await aroundLoop(sound, marks.loop, kind.reach);
  const ends = [sides?.before, sides?.behind].filter((side) => side && blockFrames(side) > 0);
  const known = bytesFor(frames + ends.length * (kind.reach ?? 0)) ?? null;
  const written = (pcm: PcmStream) =>
    bytesWritten(pause ? pausing(pcm, pause) : pcm, writer, settings, marks);
  const grids = Math.max(1, Math.round((PLACE_SECONDS * rateHz) / GRID_FRAMES));
  const placeFrames = grids * GRID_FRAMES + FADE_FRAMES;
  if (known === null && frames <= PLACES * placeFrames) {
    const bytes = await written({ ...streamOf(sound), around: sides });
    return { bytes, isExact: true };
  }
  // What stands around the sound is what one frame of silence leaves over.
  const one = pcmFromChannels(silence(channelCount), rateHz);
  const around = await written(one);
  if (known !== null) return { bytes: around - (bytesFor(1) ?? 0) + known, isExact: true };
  const parts = faded(await partsOf(sound, placeFrames, isEntered));
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

/** Each part fades into the next one: a hard joint is a stroke, which costs bits that the sound does not. */
function faded(parts: readonly Block[]): Block[] {
  const frames = FADE_FRAMES;
  return parts.map((part, i) => {
    const next = parts[i + 1];
    const length = blockFrames(part);
    const from = i === 0 ? 0 : frames;
    return part.map((channel, c) => {
      const out = channel.slice(from);
      const follow = next?.[c];
      if (!follow) return out;
      for (let k = 0; k < frames; k++) {
        const angle = ((Math.PI / 2) * (k + 0.5)) / frames;
        const at = length - from - frames + k;
        out[at] = out[at]! * Math.cos(angle) + follow[k]! * Math.sin(angle);
      }
      return out;
    });
  });
}

/** Pieces from all over a sound, at equal distances. */
async function partsOf(sound: PcmSource, frames: number, isEntered: boolean): Promise<Block[]> {
  const gap = (sound.frames - frames) / (PLACES - 1);
  const spans = Array.from({ length: PLACES }, (_, i) => {
    const start = Math.floor((i * gap) / GRID_FRAMES) * GRID_FRAMES;
    return { start, end: start + frames };
  });
  if (!isEntered) return cutOut(sound, 0, spans);
  const parts = await Promise.all(spans.map((span) => cutOut(sound, span.start, [span])));
  return parts.flat();
}

/** Reads from `from` on until the last of the spans, which do not overlap, and keeps what lies in each. */
async function cutOut(
  sound: PcmSource,
  from: number,
  spans: readonly { start: number; end: number }[],
): Promise<Block[]> {
  const found = spans.map(({ start, end }) => emptyChannels(sound.channelCount, end - start));
  let at = from;
  for await (const block of sound.from(from)) {
    const end = at + blockFrames(block);
    for (const [i, span] of spans.entries()) {
      if (span.start >= end || span.end <= at) continue;
      const part = sliceBlock(block, Math.max(0, span.start - at), Math.min(end, span.end) - at);
      part.forEach((channel, c) => found[i]![c]!.set(channel, Math.max(0, at - span.start)));
    }
    at = end;
    if (at >= spans.at(-1)!.end) break;
  }
  return found;
}
