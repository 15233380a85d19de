import { isRate } from '../../pcm/rates';
import type { ByteSource } from '../../bytes/source';
import type { PcmStream } from '../../pcm/pcm';
import { joinBytes, viewOf } from '../bits';
import { damagedHeader, noSound, truncated } from '../problems';
import { loopOfComments, readVorbisComment, tagsOfComments } from '../tags/vorbisComment';
import type { OpenedFile, StatedHeader, Warning } from '../types';
import { decodeVorbis } from '../vorbis/decode';
import { firstPackets, pagesOf } from './packets';
import { readEnd } from './page';

/** Where the comments begin in the second packet: behind its type and name. */
const COMMENT_AT = 7;

export async function openOggVorbis(
  source: ByteSource,
  serial: number,
  packet: Uint8Array,
  byteOffset: number,
): Promise<OpenedFile> {
  const { channels, sampleRateHz } = readVorbisHead(packet, byteOffset);
  const end = await readEnd(source, serial);
  if (end.complete && end.granule === 0n) throw noSound('Ogg Vorbis');
  const warnings: Warning[] = [];
  if (!end.complete) warnings.push(truncated('the page that marks its end is missing'));
  const frames = end.complete && end.granule !== null ? Number(end.granule) : null;
  const [, comment] = await firstPackets(source, serial, 2);
  const comments = readVorbisComment(comment?.subarray(COMMENT_AT) ?? new Uint8Array(0));
  const header: StatedHeader = {
    container: 'ogg',
    codec: 'vorbis',
    sampleRateHz,
    channels,
    bitDepth: null,
    frames,
    tags: tagsOfComments(comments),
    ...loopOfComments(comments),
  };
  return {
    header,
    warnings,
    pcm: (startFrame = 0): PcmStream => ({
      rateHz: sampleRateHz,
      channelCount: channels,
      frames: frames === null ? null : frames - startFrame,
      gridBits: null,
      blocks: decodeVorbis(
        pagesWithSound(source, serial, sampleRateHz),
        warnings,
        startFrame,
        channels,
      ),
    }),
  };
}

/** The decoder is given at most so many bytes at a time, … */
const PIECE_BYTES = 1 << 16;
/** … and pages for no longer than this, so that the first frames are there soon and none are decoded in vain. */
const PIECE_SECONDS = 0.25;

/** The pages of the stream without the others and the empty ones, which would only keep the decoder busy. */
async function* pagesWithSound(
  source: ByteSource,
  serial: number,
  rateHz: number,
): AsyncGenerator<Uint8Array> {
  let held: Uint8Array[] = [];
  let [bytes, from] = [0, 0];
  for await (const { page, whole } of pagesOf(source, serial, 0)) {
    if (page.bytes === page.headerBytes && !page.isLast) continue;
    held.push(whole.slice());
    bytes += whole.length;
    const seconds = (Number(page.granule) - from) / rateHz;
    if (bytes < PIECE_BYTES && seconds < PIECE_SECONDS) continue;
    yield joinBytes(...held);
    held = [];
    [bytes, from] = [0, Number(page.granule)];
  }
  if (bytes > 0) yield joinBytes(...held);
}

/** The identification header of Vorbis (Vorbis I, 4.2.2). @throws damaged-header */
export function readVorbisHead(packet: Uint8Array, byteOffset: number) {
  if (packet.length < 30) throw damagedHeader('The Vorbis header is too short', byteOffset);
  const channels = packet[11]!;
  const sampleRateHz = viewOf(packet).getUint32(12, true);
  if (channels === 0 || !isRate(sampleRateHz)) {
    throw damagedHeader(
      `The Vorbis header says ${channels} channels at ${sampleRateHz} Hz`,
      byteOffset + 11,
    );
  }
  return { channels, sampleRateHz };
}
