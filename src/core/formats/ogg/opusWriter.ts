import type { ByteSink } from '../../bytes/source';
import type { Marks } from '../../marks';
import type { PcmStream } from '../../pcm/pcm';
import { encodeText, joinBytes } from '../bits';
import {
  encodeOpus,
  opusKind,
  preSkipOf,
  type OpusPacket,
  type OpusSettings,
} from '../opus/encode';
import { writeOpusHead } from '../opus/head';
import { lostInComments, writeVorbisComment } from '../tags/vorbisComment';
import type { WriterKind, WriteResult } from '../types';
import { OggPager } from './page';

/** A page a second: players can seek, and little is lost when one is damaged. */
const PACKETS_PER_PAGE = 50;
/** Fixed, so that the same sound always gives the same bytes. */
const STREAM_SERIAL = 0x0b1901;

export const oggOpusWriter: WriterKind<OpusSettings> = {
  ...opusKind,
  id: 'ogg-opus',
  name: 'Ogg Opus',
  format: 'ogg',
  container: 'ogg',
  extension: 'opus',
  mimeType: 'audio/ogg; codecs=opus',
  version: 'libopus-1.3-ogg-bijou-3',
  carries: { tags: true, loop: true, markers: false, speakers: false },
  loses: lostInComments,
  write: writeOggOpus,
};

async function writeOggOpus(
  pcm: PcmStream,
  sink: ByteSink,
  settings: OpusSettings,
  marks: Marks,
): Promise<WriteResult> {
  const pager = new OggPager(STREAM_SERIAL);
  const put = async (packets: Uint8Array[], position: number, isLast = false) => {
    for (const page of pager.pages(packets, BigInt(position), isLast)) await sink.write(page);
  };
  const preSkip = preSkipOf(pcm);
  await put([writeOpusHead(pcm.channelCount, preSkip, pcm.rateHz)], 0);
  await put([joinBytes(encodeText('OpusTags'), writeVorbisComment(marks))], 0);
  const result = { framesIn: 0, clippedSamples: 0 };
  let open: OpusPacket[] = [];
  for await (const packet of encodeOpus(pcm, settings, result, preSkip)) {
    if (open.length === PACKETS_PER_PAGE) {
      await put(
        open.map(({ data }) => data),
        open.at(-1)!.endFrame + preSkip,
      );
      open = [];
    }
    open.push(packet);
  }
  // The last position says where the sound ends inside the last packet.
  await put(
    open.map(({ data }) => data),
    result.framesIn + preSkip,
    true,
  );
  return result;
}
