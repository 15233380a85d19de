import * as yup from 'yup';
import type { ByteSink } from '../../bytes/source';
import { BijouError } from '../../errors';
import type { Marks, Tags } from '../../marks';
import { blockFrames, tap, type PcmStream } from '../../pcm/pcm';
import { configOf, LEAD_FRAMES, mostKbps, type AacPacket } from '../aac/encode';
import { soundPackets } from '../aac/packets';
import { joinBytes } from '../bits';
import { noSound } from '../problems';
import type { WriterKind, WriteResult } from '../types';
import { dataHead, fileType, freeBox, movie, packetCount, trackPlace } from './fileBoxes';
import { plural } from '../../words';

/** Bit rate in kbit/s for all channels together. */
export interface AacSettings {
  kbps: number;
}

export const m4aWriter: WriterKind<AacSettings> = {
  id: 'm4a',
  name: 'M4A (AAC-LC)',
  format: 'm4a',
  container: 'mp4',
  codec: 'aac',
  extension: 'm4a',
  mimeType: 'audio/mp4; codecs="mp4a.40.2"',
  version: 'aac-lc-1.59-bijou-5',
  legal: {
    rates: [
      8_000, 11_025, 12_000, 16_000, 22_050, 24_000, 32_000, 44_100, 48_000, 64_000, 88_200, 96_000,
    ],
    channels: [1, 2],
    depths: null,
  },
  carries: { tags: true, loop: false, markers: false, speakers: false },
  reach: LEAD_FRAMES,
  range: '16 to 512 kbit/s, by rate and channels',
  dials: [
    {
      name: 'kbps',
      values: [16, 24, 32, 40, 48, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320, 384, 512],
      usual: 128,
    },
  ],
  usualBytes: ({ kbps }) => [kbps * 125 * 0.5, kbps * 125 * 1.15],
  settings: yup.object({ kbps: yup.number().integer().min(16).max(512).default(128).required() }),
  refuses({ kbps }, rateHz, channels) {
    const { least, most } = kbpsSpan(rateHz, channels);
    if (kbps >= least && kbps <= most) return null;
    const layout = plural(channels, 'channel');
    const [verb, end] = kbps > most ? ['ends', most] : ['begins', least];
    return `AAC at ${rateHz} Hz with ${layout} ${verb} at ${end} kbit/s.`;
  },
  nearest({ kbps }, rateHz, channels) {
    const { least, most } = kbpsSpan(rateHz, channels);
    return { kbps: Math.min(most, Math.max(least, kbps)) };
  },
  describe: ({ kbps }) => `${kbps} kbit/s`,
  loses: ({ tags: { track } }) =>
    track === undefined || trackPlace(track) ? [] : [`the track "${track}", which is no number`],
  write: writeAac,
};

/**
 * The least that it makes sense to ask for, for one and two channels up to a rate: with music that is much like
 * noise the encoder comes down to it within a fifth, and gives no less when asked for less.
 */
const LEAST_KBPS: readonly (readonly [upToHz: number, mono: number, stereo: number])[] = [
  [24_000, 16, 16],
  [48_000, 16, 24],
  [64_000, 24, 32],
  [96_000, 24, 32],
];

function kbpsSpan(rateHz: number, channels: number): { least: number; most: number } {
  const [, mono, stereo] = LEAST_KBPS.find(([upToHz]) => rateHz <= upToHz) ?? [0, 24, 32];
  return {
    least: channels === 1 ? mono : stereo,
    most: mostKbps(rateHz, channels),
  };
}

async function writeAac(
  pcm: PcmStream,
  sink: ByteSink,
  settings: AacSettings,
  { tags }: Marks,
): Promise<WriteResult> {
  const file = new PacketFile(sink, pcm, tags);
  let framesIn = 0;
  const counted = tap(pcm, (block) => (framesIn += blockFrames(block)));
  for await (const packets of soundPackets(counted, settings.kbps)) await file.add(packets);
  if (framesIn === 0) throw noSound('M4A');
  await file.finish(framesIn);
  return { framesIn, clippedSamples: 0 };
}

/** An M4A file that is being written: its index in front where the length is known, else behind. */
class PacketFile {
  private readonly packetBytes: number[] = [];
  private dataBytes = 0;
  private config: Uint8Array = new Uint8Array(0);
  /** Where the packets begin; 0 until the first one is there. */
  private dataAt = 0;

  constructor(
    private readonly sink: ByteSink,
    private readonly pcm: PcmStream,
    private readonly tags: Tags,
  ) {}

  async add(packets: readonly AacPacket[]): Promise<void> {
    for (const packet of packets) {
      const [{ data }] = packet;
      if (this.dataAt === 0) await this.begin(configOf(packet));
      // What the encoder gives beyond the end of the sound is only its own emptying.
      if (this.packetBytes.length >= packetCount(this.pcm.frames ?? Infinity)) return;
      this.packetBytes.push(data.length);
      this.dataBytes += data.length;
      if (this.dataBytes > MOST_BYTES) throw tooLong();
      await this.sink.write(data);
    }
  }

  private async begin(config: Uint8Array): Promise<void> {
    this.config = config;
    const { frames } = this.pcm;
    // The index is as long with any sizes of packets, so its place is known before them.
    const sizes = frames === null ? null : new Array<number>(packetCount(frames)).fill(0);
    const index = sizes ? this.index(frames ?? 0, sizes, 0) : new Uint8Array(0);
    const head = joinBytes(fileType(), index, dataHead(0));
    this.dataAt = head.length;
    await this.sink.write(head);
  }

  private index(frames: number, packetBytes: readonly number[], dataAt: number): Uint8Array {
    const { rateHz, channelCount } = this.pcm;
    const { config, tags } = this;
    return movie({ rateHz, channelCount, frames, packetBytes, config, tags }, dataAt);
  }

  async finish(frames: number): Promise<void> {
    const packets = packetCount(frames);
    if (this.packetBytes.length < packets) throw new Error('the AAC encoder gave too few packets');
    const index = this.index(frames, this.packetBytes.slice(0, packets), this.dataAt);
    const type = fileType();
    const room = this.dataAt - type.length - dataHead(0).length;
    if (room === index.length) {
      await this.sink.write(joinBytes(type, index, dataHead(this.dataBytes)), 0);
      return;
    }
    // The stream was longer or shorter than it had said, or had not said.
    await this.sink.write(index);
    const filler = room > 0 ? freeBox(room) : new Uint8Array(0);
    await this.sink.write(joinBytes(type, filler, dataHead(this.dataBytes)), 0);
  }
}

/** Lengths and places are written in 32 bits; the index takes the rest. */
const MOST_BYTES = 0xffffffff - (64 << 20);

function tooLong(): BijouError {
  return new BijouError(
    'not-legal',
    'The result would be larger than the 4 GiB that Bijou writes into an M4A file.',
    'Write a shorter span or a lower bit rate.',
  );
}
