import * as yup from 'yup';
import type { ByteSink } from '../../bytes/source';
import type { Marks } from '../../marks';
import { blockFrames, type PcmStream } from '../../pcm/pcm';
import { ByteWriter, joinBytes } from '../bits';
import { Quantiser } from '../pcm/quantise';
import { noSound } from '../problems';
import { anyRate } from '../rates';
import { lostInComments, writeVorbisComment } from '../tags/vorbisComment';
import type { WriterKind, WriteResult } from '../types';
import { CODED_RATE_HZ, isStatedInFrames, withoutRate } from './frameRate';
import { libFlac, type Library } from './library';
import { speakerComment, STREAMINFO_BYTES } from './metadata';

export interface FlacSettings {
  bits: 8 | 16 | 24;
  /** 0 quickest … 8 smallest; the sound is the same. */
  level: number;
}

export const flacWriter: WriterKind<FlacSettings> = {
  id: 'flac',
  name: 'FLAC',
  format: 'flac',
  container: 'flac',
  codec: 'flac',
  extension: 'flac',
  mimeType: 'audio/flac',
  version: 'libflac-1.3-bijou-2',
  legal: {
    rates: anyRate,
    channels: [1, 2, 3, 4, 5, 6, 7, 8],
    depths: [8, 16, 24].map((bits) => ({ bits, settings: { bits } })),
  },
  carries: { tags: true, loop: true, markers: false, speakers: true },
  loses: lostInComments,
  range: '8, 16, 24-bit; level 0 (quick) to 8 (small)',
  dials: [
    {
      name: 'level',
      values: [0, 1, 2, 3, 4, 5, 6, 7, 8],
      usual: 5,
      says: { 0: 'quick', 8: 'small' },
    },
  ],
  // Near silence almost nothing; noise is no smaller than its samples.
  usualBytes({ bits }, rateHz, channels) {
    const plain = (rateHz * channels * bits) / 8;
    return [plain * 0.2, plain * 0.9];
  },
  settings: yup.object({
    bits: yup
      .mixed<8 | 16 | 24>()
      .oneOf([8, 16, 24] as const)
      .default(24)
      .required(),
    level: yup.number().integer().min(0).max(8).default(5).required(),
  }),
  describe: ({ bits, level }) => `${bits}-bit, level ${level}`,
  write: writeFlac,
};

async function writeFlac(
  pcm: PcmStream,
  sink: ByteSink,
  { bits, level }: FlacSettings,
  marks: Marks,
): Promise<WriteResult> {
  const file = new FlacFile(await libFlac(), pcm, bits, level, marks);
  const quantiser = new Quantiser(bits, pcm);
  let framesIn = 0;
  try {
    for await (const block of pcm.blocks) {
      framesIn += blockFrames(block);
      await sink.write(file.encode(quantiser.integers(block), blockFrames(block)));
    }
    if (framesIn === 0) throw noSound('FLAC');
    await sink.write(file.finish());
    // Length, frame sizes and checksum are known only now.
    await sink.write(file.streamInfo(), STREAMINFO_AT);
  } finally {
    file.free();
  }
  return { framesIn, clippedSamples: quantiser.clippedSamples };
}

/** Behind `fLaC` and the block's own head. */
const STREAMINFO_AT = 8;

type StreamFacts = Parameters<Parameters<Library['init_encoder_stream']>[2] & object>[0];

/** libFLAC's stream encoder; what it writes as metadata is replaced by our own. */
class FlacFile {
  private readonly encoder: number;
  private parts: Uint8Array[] = [];
  private isInSound = false;
  private info: StreamFacts | null = null;

  constructor(
    private readonly library: Library,
    private readonly pcm: PcmStream,
    private readonly bits: number,
    level: number,
    marks: Marks,
  ) {
    const { rateHz, channelCount } = pcm;
    const quality = level as Parameters<Library['create_libflac_encoder']>[3];
    const isStated = isStatedInFrames(rateHz);
    this.encoder = this.library.create_libflac_encoder(
      isStated ? rateHz : CODED_RATE_HZ,
      channelCount,
      bits,
      quality,
      0,
      false,
      0,
    );
    if (this.encoder === 0) throw new Error('the FLAC encoder was refused');
    const status = this.library.init_encoder_stream(
      this.encoder,
      (bytes, _length, samples) => {
        // Calls without samples carry metadata.
        this.isInSound ||= samples > 0;
        if (!this.isInSound) return;
        const frame = bytes.slice();
        this.parts.push(isStated ? frame : withoutRate(frame));
      },
      (info) => {
        this.info = info;
      },
    );
    if (status !== 0) throw new Error(`the FLAC encoder was refused: ${status}`);
    this.parts.push(this.head(marks));
  }

  encode(samples: Int32Array<ArrayBuffer>, frames: number): Uint8Array {
    if (!this.library.FLAC__stream_encoder_process_interleaved(this.encoder, samples, frames)) {
      throw new Error('the FLAC encoder failed');
    }
    return this.taken();
  }

  finish(): Uint8Array {
    this.library.FLAC__stream_encoder_finish(this.encoder);
    return this.taken();
  }

  free(): void {
    this.library.FLAC__stream_encoder_delete(this.encoder);
  }

  private taken(): Uint8Array {
    const bytes = joinBytes(...this.parts);
    this.parts = [];
    return bytes;
  }

  private head(marks: Marks): Uint8Array {
    const comment = writeVorbisComment(marks, speakerComment(this.pcm));
    return new ByteWriter()
      .text('fLaC')
      .u8(0)
      .u24be(STREAMINFO_BYTES)
      .raw(new Uint8Array(STREAMINFO_BYTES))
      .u8(0x80 | 4)
      .u24be(comment.length)
      .raw(comment)
      .bytes();
  }

  streamInfo(): Uint8Array {
    if (!this.info) throw new Error('the FLAC encoder gave no facts');
    const { min_blocksize, max_blocksize, min_framesize, max_framesize } = this.info;
    const { total_samples, md5sum } = this.info;
    const { rateHz, channelCount } = this.pcm;
    const out = new ByteWriter().u16be(min_blocksize).u16be(max_blocksize);
    out.u24be(min_framesize).u24be(max_framesize);
    const high = Math.floor(total_samples / 2 ** 32);
    out.u32be(((rateHz << 12) | ((channelCount - 1) << 9) | ((this.bits - 1) << 4) | high) >>> 0);
    out.u32be(total_samples >>> 0);
    const sum = md5sum.match(/../g) ?? [];
    return out.raw(Uint8Array.from(sum, (pair) => parseInt(pair, 16))).bytes();
  }
}
