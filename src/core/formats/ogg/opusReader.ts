import type { ByteSource } from '../../bytes/source';
import { decodeOpus } from '../opus/decode';
import { OPUS_RATE, readOpusHead } from '../opus/head';
import { packetFrames } from '../opus/packet';
import { noSound, truncated } from '../problems';
import { loopOfComments, readVorbisComment, tagsOfComments } from '../tags/vorbisComment';
import type { OpenedFile, StatedHeader, Warning } from '../types';
import { oggPackets } from './packets';
import { MOST_PAGE_BYTES, readEnd } from './page';

/** Where the comments begin in the second packet: behind `OpusTags`. */
const COMMENT_AT = 8;

/** Ogg Opus (RFC 7845): positions count at 48 kHz and include the pre-skip. */
export async function openOggOpus(
  source: ByteSource,
  serial: number,
  packet: Uint8Array,
  byteOffset: number,
): Promise<OpenedFile> {
  const head = readOpusHead(packet, 'Ogg', byteOffset);
  const end = await readEnd(source, serial);
  const { start, comment, soundPackets } = await readBeginning(source, serial, head.streamCount);
  const warnings: Warning[] = [];
  if (!end.complete) warnings.push(truncated('the page that marks its end is missing'));
  const stated = end.granule === null ? 0 : Number(end.granule) - start - head.preSkip;
  if (soundPackets === 0 || (end.complete && stated <= 0)) throw noSound('Ogg Opus');
  const frames = end.complete ? stated : null;
  const comments = readVorbisComment(comment);
  const header: StatedHeader = {
    container: 'ogg',
    codec: 'opus',
    sampleRateHz: OPUS_RATE,
    channels: head.channels,
    bitDepth: null,
    frames,
    tags: tagsOfComments(comments),
    ...loopOfComments(comments),
    addedFrames: {
      head: head.preSkip,
      tail: end.complete ? await framesBehind(source, serial, head.streamCount, start) : 0,
    },
  };
  async function* packets(): AsyncGenerator<Uint8Array> {
    let count = 0;
    for await (const { data } of oggPackets(source, serial)) if (count++ >= 2) yield data;
  }
  return {
    header,
    warnings,
    pcm: (startFrame = 0) => ({
      rateHz: OPUS_RATE,
      channelCount: head.channels,
      frames: frames === null ? null : frames - startFrame,
      gridBits: null,
      blocks: decodeOpus(packets(), head, warnings, { startFrame, frames }),
    }),
  };
}

/** Some pages at the end of a file. */
const END_BYTES = 4 * MOST_PAGE_BYTES;

/** Frames that the last packets hold beyond the end that the last page states. */
async function framesBehind(
  source: ByteSource,
  serial: number,
  streamCount: number,
  start: number,
): Promise<number> {
  const fromByte = Math.max(0, source.size - END_BYTES);
  // In the middle of a file the position is known from the first page that states one.
  let position = fromByte === 0 ? start : NaN;
  let headers = fromByte === 0 ? 2 : 0;
  for await (const { data, granule, isLast } of oggPackets(source, serial, fromByte)) {
    if (headers-- > 0) continue;
    position += packetFrames(data, streamCount) ?? 0;
    if (granule === null || granule < 0n) continue;
    if (isLast) return Math.max(0, position - Number(granule)) || 0;
    position = Number(granule);
  }
  return 0;
}

/** Comments, and the position at which a stream that was cut out of a longer one begins. */
async function readBeginning(source: ByteSource, serial: number, streamCount: number) {
  let comment: Uint8Array = new Uint8Array(0);
  let count = 0;
  let sum = 0;
  let start = 0;
  for await (const packet of oggPackets(source, serial)) {
    count++;
    if (count === 2) comment = packet.data.subarray(COMMENT_AT);
    if (count <= 2) continue;
    sum += packetFrames(packet.data, streamCount) ?? 0;
    if (packet.granule === null || packet.granule < 0n) continue;
    // On a stream's only page the end is trimmed, which would make its start negative.
    if (!packet.isLast) start = Math.max(0, Number(packet.granule) - sum);
    break;
  }
  return { start, comment, soundPackets: Math.max(0, count - 2) };
}
