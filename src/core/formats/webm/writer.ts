import type { ByteSink } from '../../bytes/source';
import type { Marks, Tags } from '../../marks';
import type { PcmStream } from '../../pcm/pcm';
import { ByteWriter, joinBytes } from '../bits';
import {
  encodeOpus,
  opusKind,
  preSkipOf,
  type OpusPacket,
  type OpusSettings,
} from '../opus/encode';
import { OPUS_RATE, writeOpusHead } from '../opus/head';
import type { WriterKind, WriteResult } from '../types';
import { element, elementHead, float, ID, text, uint } from './ebml';
import { writeTags } from './tags';

export const webmWriter: WriterKind<OpusSettings> = {
  ...opusKind,
  id: 'webm',
  name: 'WebM (Opus)',
  format: 'webm',
  container: 'webm',
  extension: 'webm',
  mimeType: 'audio/webm; codecs=opus',
  version: 'libopus-1.3-webm-bijou-6',
  carries: { tags: true, loop: false, markers: false, speakers: false },
  write: writeWebm,
};

/**
 * 7 ms: time stamps count milliseconds, and players that place the first packet by them cut off what a
 * broken millisecond is rounded by.
 */
const LEAST_PRE_SKIP = 336;
/** Length of a packet as `encodeOpus` makes it. */
const PACKET_MS = 20;
/** Five seconds: players seek to the beginning of a cluster. */
const PACKETS_PER_CLUSTER = 250;
const NS = 1e9;
/** What a decoder must hear before a place to sound right there: 80 ms (RFC 7845, 4.6). */
const PRE_ROLL_NS = 80e6;

async function writeWebm(
  pcm: PcmStream,
  sink: ByteSink,
  settings: OpusSettings,
  { tags }: Marks,
): Promise<WriteResult> {
  const file = new WebmFile(sink, pcm, tags);
  await file.begin();
  const result = { framesIn: 0, clippedSamples: 0 };
  let held: OpusPacket | null = null;
  for await (const packet of encodeOpus(pcm, settings, result, preSkipOf(pcm, LEAST_PRE_SKIP))) {
    if (held) await file.add(held.data);
    held = packet;
  }
  // Only the last packet is cut, and by how much is known now.
  if (held) await file.addLast(held.data, held.endFrame - result.framesIn);
  await file.finish(result.framesIn);
  return result;
}

/** One segment: facts, one track, tags, clusters, and cues that say where the clusters are. */
class WebmFile {
  private position = 0;
  private segmentAt = 0;
  private infoAt = 0;
  private seekAt = 0;
  private packets = 0;
  private cluster: Uint8Array[] = [];
  private readonly cues: { ms: number; position: number }[] = [];

  constructor(
    private readonly sink: ByteSink,
    private readonly pcm: PcmStream,
    private readonly tags: Tags,
  ) {}

  private async put(bytes: Uint8Array): Promise<void> {
    await this.sink.write(bytes);
    this.position += bytes.length;
  }

  async begin(): Promise<void> {
    await this.put(element(ID.ebml, text(ID.docType, 'webm'), uint(0x4287, 4), uint(0x4285, 2)));
    this.segmentAt = this.position;
    await this.put(elementHead(ID.segment, 0));
    this.seekAt = this.position;
    await this.put(this.seekHead(0));
    this.infoAt = this.position;
    await this.put(this.info(0));
    await this.put(this.track());
    const tags = writeTags(this.tags);
    if (tags.length > 0) await this.put(tags);
  }

  /** Positions inside the segment count from behind its head. */
  private get inSegment(): number {
    return this.position - this.seekAt;
  }

  async add(data: Uint8Array): Promise<void> {
    this.cluster.push(element(ID.simpleBlock, this.block(data, 0x80)));
    this.packets++;
    if (this.cluster.length === PACKETS_PER_CLUSTER) await this.closeCluster();
  }

  async addLast(data: Uint8Array, discardFrames: number): Promise<void> {
    const ns = Math.round((discardFrames * NS) / OPUS_RATE);
    this.cluster.push(
      element(
        ID.blockGroup,
        element(ID.block, this.block(data, 0)),
        uint(ID.blockDuration, PACKET_MS),
        uint(ID.discardPadding, ns),
      ),
    );
    this.packets++;
    await this.closeCluster();
  }

  private block(data: Uint8Array, flags: number): Uint8Array {
    const time = this.cluster.length * PACKET_MS;
    return joinBytes(new ByteWriter().u8(0x81).u16be(time).u8(flags).bytes(), data);
  }

  private async closeCluster(): Promise<void> {
    const ms = (this.packets - this.cluster.length) * PACKET_MS;
    this.cues.push({ ms, position: this.inSegment });
    await this.put(element(ID.cluster, uint(ID.timestamp, ms), ...this.cluster));
    this.cluster = [];
  }

  async finish(frames: number): Promise<void> {
    const cuesAt = this.inSegment;
    const points = this.cues.map(({ ms, position }) =>
      element(
        ID.cuePoint,
        uint(ID.cueTime, ms),
        element(ID.cueTrackPositions, uint(ID.cueTrack, 1), uint(ID.cueClusterPosition, position)),
      ),
    );
    await this.put(element(ID.cues, ...points));
    await this.sink.write(elementHead(ID.segment, this.inSegment), this.segmentAt);
    await this.sink.write(this.seekHead(cuesAt), this.seekAt);
    await this.sink.write(this.info((frames / OPUS_RATE) * 1000), this.infoAt);
  }

  private seekHead(cuesAt: number): Uint8Array {
    const id = new ByteWriter().u32be(ID.cues).bytes();
    return element(
      ID.seekHead,
      element(ID.seek, element(ID.seekId, id), uint(ID.seekPosition, cuesAt)),
    );
  }

  private info(durationMs: number): Uint8Array {
    return element(
      ID.info,
      uint(ID.timestampScale, 1e6),
      text(ID.muxingApp, 'Bijou'),
      text(ID.writingApp, 'Bijou'),
      float(ID.duration, durationMs),
    );
  }

  private track(): Uint8Array {
    const { channelCount, rateHz } = this.pcm;
    const preSkip = preSkipOf(this.pcm, LEAST_PRE_SKIP);
    return element(
      ID.tracks,
      element(
        ID.trackEntry,
        uint(ID.trackNumber, 1),
        uint(ID.trackUid, 1),
        uint(ID.trackType, 2),
        text(ID.codecId, 'A_OPUS'),
        element(ID.codecPrivate, writeOpusHead(channelCount, preSkip, rateHz)),
        uint(ID.codecDelay, Math.round((preSkip * NS) / OPUS_RATE)),
        uint(ID.seekPreRoll, PRE_ROLL_NS),
        element(ID.audio, float(ID.samplingFrequency, OPUS_RATE), uint(ID.channels, channelCount)),
      ),
    );
  }
}
