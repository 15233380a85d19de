import { registerAacEncoder } from '@mediabunny/aac-encoder';
import type { EncodedPacket, MetadataTags } from 'mediabunny';
import {
  AudioSample,
  AudioSampleSource,
  EncodedAudioPacketSource,
  Mp4OutputFormat,
  NullTarget,
  Output,
  StreamTarget,
  type StreamTargetChunk,
} from 'mediabunny';
import * as yup from 'yup';
import type { ByteSink } from '../../bytes/source';
import type { Marks, Tags } from '../../marks';
import { blockFrames, type Block, type PcmStream } from '../../pcm/pcm';
import { indexOfAscii } from '../bits';
import { noSound } from '../problems';
import type { WriterKind, WriteResult } from '../types';

/** Bit rate in kbit/s for all channels together. */
export interface AacSettings {
  kbps: number;
}

/** What the encoder puts in front, in frames; also the length of a packet. */
const PACKET_FRAMES = 1024;

export const m4aWriter: WriterKind<AacSettings> = {
  id: 'm4a',
  name: 'M4A (AAC-LC)',
  format: 'm4a',
  container: 'mp4',
  codec: 'aac',
  extension: 'm4a',
  mimeType: 'audio/mp4; codecs="mp4a.40.2"',
  version: 'aac-lc-1.59-bijou-2',
  legal: {
    rates: [
      8_000, 11_025, 12_000, 16_000, 22_050, 24_000, 32_000, 44_100, 48_000, 64_000, 88_200, 96_000,
    ],
    channels: [1, 2],
    bitDepths: null,
  },
  carries: { tags: true, loop: false, markers: false },
  range: '16 to 512 kbit/s, by rate and channels',
  settings: yup.object({ kbps: yup.number().integer().min(16).max(512).default(128).required() }),
  refuses({ kbps }, rateHz, channels) {
    // ISO/IEC 14496-3: a packet holds at most 6144 bits a channel.
    const most = Math.floor((6144 * channels * rateHz) / PACKET_FRAMES / 1000);
    return kbps <= most
      ? null
      : `AAC at ${rateHz} Hz with ${channels} ${channels === 1 ? 'channel' : 'channels'} ends at ${most} kbit/s.`;
  },
  describe: ({ kbps }) => `${kbps} kbit/s`,
  write: writeAac,
};

async function writeAac(
  pcm: PcmStream,
  sink: ByteSink,
  settings: AacSettings,
  { tags }: Marks,
): Promise<WriteResult> {
  registerAacEncoder();
  const file = new PacketFile(sink, pcm, tags);
  const encoded: [EncodedPacket, EncodedAudioChunkMetadata | undefined][] = [];
  const source = new AudioSampleSource({
    codec: 'aac',
    bitrate: settings.kbps * 1000,
    onEncodedPacket: (packet, meta) => encoded.push([packet, meta]),
  });
  // The encoder is driven through an output that keeps nothing; its packets go into our own file,
  // where the first and the last get their true times.
  const drive = new Output({
    format: new Mp4OutputFormat({ fastStart: false }),
    target: new NullTarget(),
  });
  drive.addAudioTrack(source);
  let framesIn = 0;
  try {
    await drive.start();
    await file.start();
    for await (const block of pcm.blocks) {
      const sample = sampleOf(block, pcm.rateHz, framesIn - PACKET_FRAMES);
      framesIn += blockFrames(block);
      await source.add(sample);
      sample.close();
      await file.add(encoded.splice(0));
    }
    if (framesIn === 0) throw noSound('M4A');
    await drive.finalize();
    await file.add(encoded.splice(0));
    await file.finish(framesIn);
  } finally {
    // Ends the encoder's worker thread, also when something above failed.
    if (drive.state !== 'finalized') await drive.cancel().catch(() => undefined);
  }
  return { framesIn, clippedSamples: 0 };
}

function sampleOf(block: Block, rateHz: number, atFrame: number): AudioSample {
  const frames = blockFrames(block);
  const data = new Float32Array(frames * block.length);
  block.forEach((channel, c) => data.set(channel, c * frames));
  return new AudioSample({
    data,
    format: 'f32-planar',
    numberOfChannels: block.length,
    sampleRate: rateHz,
    timestamp: atFrame / rateHz,
  });
}

/** The M4A file: priming before time zero (which becomes its edit list), a last packet cut to length. */
class PacketFile {
  private readonly source = new EncodedAudioPacketSource('aac');
  private readonly output: Output;
  /** The newest packet, held back because the last one needs its true duration. */
  private held: [EncodedPacket, EncodedAudioChunkMetadata | undefined] | null = null;

  constructor(
    sink: ByteSink,
    private readonly pcm: PcmStream,
    tags: Tags,
  ) {
    const writable = new WritableStream<StreamTargetChunk>({
      write: ({ data, position }) => sink.write(withoutDates(data), position),
    });
    // With the length known, room for the index is kept in front, so that pages can play while loading.
    const packets = pcm.frames === null ? null : Math.ceil(pcm.frames / PACKET_FRAMES) + 2;
    this.output = new Output({
      format: new Mp4OutputFormat({ fastStart: packets === null ? false : 'reserve' }),
      target: new StreamTarget(writable),
    });
    this.output.setMetadataTags(metadataOf(tags));
    this.output.addAudioTrack(this.source, packets === null ? {} : { maximumPacketCount: packets });
  }

  async start(): Promise<void> {
    await this.output.start();
  }

  async add(packets: [EncodedPacket, EncodedAudioChunkMetadata | undefined][]): Promise<void> {
    for (const next of packets) {
      if (this.held) await this.source.add(...this.held);
      this.held = next;
    }
  }

  async finish(frames: number): Promise<void> {
    if (!this.held) throw noSound('M4A');
    const [last, meta] = this.held;
    const length = frames / this.pcm.rateHz - last.timestamp;
    await this.source.add(last.clone({ duration: length }), meta);
    await this.output.finalize();
  }
}

function metadataOf({ year, track, ...texts }: Tags): MetadataTags {
  const trackNumber = Number.parseInt(track ?? '', 10);
  return {
    ...texts,
    ...(trackNumber > 0 && trackNumber < 65_536 && { trackNumber }),
    // Written as it stands: a date object would say more than a year does.
    ...(year !== undefined && { raw: { '\u00a9day': year } }),
  };
}

/** Zeroes the creation and modification times in the index, so that the same sound gives the same bytes. */
function withoutDates(data: Uint8Array): Uint8Array {
  const index = indexOfAscii(data.subarray(0, 64), 'moov');
  if (index < 0) return data;
  const copy = data.slice();
  for (const box of ['mvhd', 'tkhd', 'mdhd']) {
    const at = indexOfAscii(copy, box, index);
    if (at < 0) continue;
    const bytes = copy[at + 4] === 1 ? 16 : 8;
    copy.fill(0, at + 8, at + 8 + bytes);
  }
  return copy;
}
