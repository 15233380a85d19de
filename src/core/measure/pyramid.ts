import type { ByteSource } from '../bytes/source';
import { BijouError } from '../errors';
import type { Block } from '../pcm/pcm';

/**
 * Peak pyramid: for every channel the smallest, the largest and the mean square of each bucket of
 * 256 frames, then of 4 buckets, and so on until one bucket holds all. A picture of any width reads
 * a few buckets a column, however long the sound is.
 *
 * Stored little-endian: "BJPK", u32 version, u32 channels, f64 frames, then the levels from fine to
 * coarse, each level channel by channel, each bucket as three float32.
 */
export const BUCKET_FRAMES = 256;
const LEVEL_FACTOR = 4;
const HEADER_BYTES = 20;
const BUCKET_BYTES = 12;
const VERSION = 1;

/** One column of a picture. */
export interface Column {
  min: number;
  max: number;
  rms: number;
}

/** A list of numbers that grows by doubling. */
class Growing {
  data = new Float32Array(3 * 1024);
  length = 0;

  push(min: number, max: number, square: number): void {
    if (this.length + 3 > this.data.length) {
      const grown = new Float32Array(this.data.length * 2);
      grown.set(this.data);
      this.data = grown;
    }
    this.data[this.length++] = min;
    this.data[this.length++] = max;
    this.data[this.length++] = square;
  }
}

/** Builds the pyramid while a sound streams past. */
export class PyramidBuilder {
  private readonly levels: Growing[];
  private readonly open: { min: number; max: number; squares: number }[];
  private filled = 0;
  private frames = 0;

  constructor(private readonly channelCount: number) {
    this.levels = Array.from({ length: channelCount }, () => new Growing());
    this.open = Array.from({ length: channelCount }, emptyBucket);
  }

  push(block: Block): void {
    const frames = block[0]?.length ?? 0;
    for (let at = 0; at < frames;) {
      const take = Math.min(BUCKET_FRAMES - this.filled, frames - at);
      block.forEach((channel, c) => {
        const bucket = this.open[c]!;
        let { min, max, squares } = bucket;
        for (let i = at; i < at + take; i++) {
          const x = channel[i]!;
          if (x < min) min = x;
          if (x > max) max = x;
          squares += x * x;
        }
        bucket.min = min;
        bucket.max = max;
        bucket.squares = squares;
      });
      at += take;
      this.filled += take;
      if (this.filled === BUCKET_FRAMES) this.close();
    }
    this.frames += frames;
  }

  private close(): void {
    this.open.forEach((bucket, c) => {
      this.levels[c]!.push(bucket.min, bucket.max, bucket.squares / this.filled);
      this.open[c] = emptyBucket();
    });
    this.filled = 0;
  }

  /** The finished pyramid's bytes. */
  finish(): Uint8Array {
    if (this.filled > 0) this.close();
    const layout = levelLayout(this.frames, this.channelCount);
    const last = layout.at(-1);
    const bytes = new Uint8Array(last ? last.offset + last.bytes : HEADER_BYTES);
    const view = new DataView(bytes.buffer);
    view.setUint32(0, 0x424a504b);
    view.setUint32(4, VERSION, true);
    view.setUint32(8, this.channelCount, true);
    view.setFloat64(12, this.frames, true);
    for (let c = 0; c < this.channelCount; c++) {
      const first = this.levels[c]!;
      let fine = first.data.subarray(0, first.length);
      layout.forEach(({ offset, buckets }, level) => {
        if (level > 0) fine = coarser(fine);
        const start = offset + c * buckets * BUCKET_BYTES;
        for (let i = 0; i < fine.length; i++) view.setFloat32(start + i * 4, fine[i]!, true);
      });
    }
    return bytes;
  }
}

function emptyBucket() {
  return { min: Infinity, max: -Infinity, squares: 0 };
}

function coarser(fine: Float32Array<ArrayBuffer>): Float32Array<ArrayBuffer> {
  const buckets = fine.length / 3;
  const coarse = new Float32Array(Math.ceil(buckets / LEVEL_FACTOR) * 3);
  for (let to = 0, from = 0; to < coarse.length; to += 3) {
    let min = Infinity;
    let max = -Infinity;
    let square = 0;
    const end = Math.min(fine.length, from + LEVEL_FACTOR * 3);
    const count = (end - from) / 3;
    for (; from < end; from += 3) {
      min = Math.min(min, fine[from]!);
      max = Math.max(max, fine[from + 1]!);
      square += fine[from + 2]!;
    }
    coarse.set([min, max, square / count], to);
  }
  return coarse;
}

interface Level {
  bucketFrames: number;
  buckets: number;
  offset: number;
  bytes: number;
}

function levelLayout(frames: number, channelCount: number): Level[] {
  const levels: Level[] = [];
  let offset = HEADER_BYTES;
  let bucketFrames = BUCKET_FRAMES;
  let buckets = Math.ceil(frames / BUCKET_FRAMES);
  while (buckets > 0) {
    const bytes = buckets * channelCount * BUCKET_BYTES;
    levels.push({ bucketFrames, buckets, offset, bytes });
    if (buckets === 1) break;
    offset += bytes;
    bucketFrames *= LEVEL_FACTOR;
    buckets = Math.ceil(buckets / LEVEL_FACTOR);
  }
  return levels;
}

/**
 * Reads `columns` columns for the frames from `startFrame` to `endFrame`, per channel, from the
 * coarsest level that is still finer than a column. For columns of fewer frames than a bucket,
 * read samples instead.
 */
export async function readColumns(
  source: ByteSource,
  startFrame: number,
  endFrame: number,
  columns: number,
): Promise<Column[][]> {
  const { channelCount, frames } = await readHeader(source);
  const perColumn = (endFrame - startFrame) / columns;
  const levels = levelLayout(frames, channelCount);
  const level = levels.findLast((l) => l.bucketFrames <= perColumn) ?? levels[0];
  if (!level) return Array.from({ length: channelCount }, () => []);
  const first = Math.max(0, Math.floor(startFrame / level.bucketFrames));
  const end = Math.min(level.buckets, Math.ceil(endFrame / level.bucketFrames));
  return Promise.all(
    Array.from({ length: channelCount }, async (_, c) => {
      const place = level.offset + (c * level.buckets + first) * BUCKET_BYTES;
      const bytes = (await source.read(place, Math.max(0, end - first) * BUCKET_BYTES)).slice();
      const buckets = new Float32Array(bytes.buffer, 0, bytes.length >> 2);
      return Array.from({ length: columns }, (_, i) => {
        const from = (startFrame + i * perColumn) / level.bucketFrames - first;
        const to = (startFrame + (i + 1) * perColumn) / level.bucketFrames - first;
        return joinBuckets(buckets, Math.max(0, Math.floor(from)), Math.ceil(to));
      });
    }),
  );
}

/** The loudest sample of any channel in every finest bucket. */
export async function readBucketPeaks(source: ByteSource): Promise<Float32Array> {
  const { channelCount, frames } = await readHeader(source);
  const [finest] = levelLayout(frames, channelCount);
  if (!finest) return new Float32Array(0);
  const { offset, buckets, bytes: size } = finest;
  const bytes = (await source.read(offset, size)).slice();
  const values = new Float32Array(bytes.buffer, 0, size >> 2);
  const peaks = new Float32Array(buckets);
  for (let c = 0, at = 0; c < channelCount; c++) {
    for (let i = 0; i < buckets; i++, at += 3) {
      peaks[i] = Math.max(peaks[i]!, -values[at]!, values[at + 1]!);
    }
  }
  return peaks;
}

async function readHeader(source: ByteSource) {
  const header = await source.read(0, HEADER_BYTES);
  const view = new DataView(header.buffer, header.byteOffset, header.byteLength);
  if (header.length < HEADER_BYTES || view.getUint32(4, true) !== VERSION) {
    throw new BijouError(
      'internal',
      'The stored waveform cannot be read.',
      'Read the sound again.',
    );
  }
  return { channelCount: view.getUint32(8, true), frames: view.getFloat64(12, true) };
}

function joinBuckets(buckets: Float32Array, from: number, to: number): Column {
  let min = Infinity;
  let max = -Infinity;
  let square = 0;
  const end = Math.min(buckets.length / 3, Math.max(to, from + 1));
  for (let i = from; i < end; i++) {
    min = Math.min(min, buckets[i * 3]!);
    max = Math.max(max, buckets[i * 3 + 1]!);
    square += buckets[i * 3 + 2]!;
  }
  return end > from
    ? { min, max, rms: Math.sqrt(square / (end - from)) }
    : { min: 0, max: 0, rms: 0 };
}
