import type { ByteSink } from '../../bytes/source';
import { BijouError } from '../../errors';
import type { Marks } from '../../marks';
import type { PcmStream } from '../../pcm/pcm';
import { isUnusualMask, usualMask } from '../../pcm/speakers';
import { ByteWriter } from '../bits';
import { writeMarks } from './marks';

/** Leaves room for what stands behind the samples. */
const MOST_BYTES = 0xffffffff - (1 << 20);

export interface WavLayout {
  /** Format tag: 1 PCM, 3 float, 0x11 IMA ADPCM. */
  tag: number;
  bits: number;
  blockBytes: number;
  bytesPerSecond: number;
  /** Frames in a block, for codecs that have blocks. */
  framesPerBlock?: number;
}

/** A WAV file that is being written: header first as a placeholder, then again with the true lengths. */
export class WavFile {
  private dataBytes = 0;

  constructor(
    private readonly sink: ByteSink,
    private readonly pcm: Pick<PcmStream, 'rateHz' | 'channelCount' | 'speakerMask'>,
    private readonly layout: WavLayout,
  ) {}

  /** @throws not-legal when `expectedBytes` of sound are more than a WAV file holds. */
  async begin(expectedBytes: number | null): Promise<void> {
    if ((expectedBytes ?? 0) > MOST_BYTES) throw tooLong();
    await this.sink.write(this.header(0, 0));
  }

  async add(bytes: Uint8Array): Promise<void> {
    this.dataBytes += bytes.length;
    if (this.dataBytes > MOST_BYTES) throw tooLong();
    await this.sink.write(bytes);
  }

  async finish(frames: number, marks: Marks): Promise<void> {
    const behind = writeMarks(marks, this.pcm.rateHz);
    if (this.dataBytes % 2 === 1) await this.sink.write(new Uint8Array(1));
    if (behind.length > 0) await this.sink.write(behind);
    await this.sink.write(this.header(frames, behind.length), 0);
  }

  private header(frames: number, behindBytes: number): Uint8Array {
    const { tag, bits, blockBytes, bytesPerSecond, framesPerBlock } = this.layout;
    const { channelCount, rateHz, speakerMask } = this.pcm;
    const extensible = channelCount > 2 || isUnusualMask(speakerMask, channelCount);
    const fmt = new ByteWriter()
      .u16le(extensible ? 0xfffe : tag)
      .u16le(channelCount)
      .u32le(rateHz)
      .u32le(bytesPerSecond)
      .u16le(blockBytes)
      .u16le(bits);
    if (extensible) {
      // The sub-format is the tag with the fixed rest of Microsoft's identifier behind it.
      fmt
        .u16le(22)
        .u16le(bits)
        .u32le(speakerMask || usualMask(channelCount))
        .u32le(tag);
      fmt.u32le(0x00100000).u32le(0xaa000080).u32le(0x719b3800);
    } else if (framesPerBlock !== undefined) {
      fmt.u16le(2).u16le(framesPerBlock);
    } else if (tag !== 1) {
      fmt.u16le(0);
    }
    const body = new ByteWriter().text('WAVEfmt ').u32le(fmt.length).raw(fmt.bytes());
    // Formats other than PCM state their length in frames.
    if (tag !== 1) body.text('fact').u32le(4).u32le(frames);
    body.text('data').u32le(this.dataBytes);
    const riffBytes = body.length + this.dataBytes + (this.dataBytes % 2) + behindBytes;
    return new ByteWriter().text('RIFF').u32le(riffBytes).raw(body.bytes()).bytes();
  }
}

function tooLong(): BijouError {
  return new BijouError(
    'not-legal',
    'The result would be larger than the 4 GiB that a WAV file can hold.',
    'Write a shorter span, fewer channels, a lower rate or fewer bits.',
  );
}
