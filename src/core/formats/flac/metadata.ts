import { isRate } from '../../pcm/rates';
import type { ByteSource } from '../../bytes/source';
import type { PcmStream } from '../../pcm/pcm';
import { isUnusualMask } from '../../pcm/speakers';
import { ascii, viewOf } from '../bits';
import { damagedHeader } from '../problems';
import { PartCounter } from '../parts';
import { readVorbisComment } from '../tags/vorbisComment';

/** STREAMINFO (RFC 9639, 8.2). */
interface StreamInfo {
  rateHz: number;
  channels: number;
  bits: number;
  /** Null where the encoder did not know. */
  frames: number | null;
  /** MD5 of the samples, in hexadecimal; null where the encoder left it out. */
  md5: string | null;
}

export interface FlacHead {
  info: StreamInfo;
  comments: Map<string, string>;
  /** Where the first frame of sound begins. */
  soundStart: number;
}

const MOST_COMMENT_BYTES = 4 << 20;
export const STREAMINFO_BYTES = 34;

/** Reads the metadata blocks that follow `fLaC` at `at`. @throws damaged-header */
export async function readFlacHead(source: ByteSource, at: number): Promise<FlacHead> {
  let info: StreamInfo | null = null;
  let comments = new Map<string, string>();
  let place = at + 4;
  const counter = new PartCounter('The FLAC header');
  for (;;) {
    counter.add(place);
    const head = await source.read(place, 4);
    if (head.length < 4) throw damagedHeader('The FLAC file ends in its header', place);
    const type = head[0]! & 127;
    const size = (head[1]! << 16) | (head[2]! << 8) | head[3]!;
    if (type === 0) info = readStreamInfo(await source.read(place + 4, size), place + 4);
    if (type === 4 && size <= MOST_COMMENT_BYTES) {
      comments = readVorbisComment(await source.read(place + 4, size));
    }
    if (!info) throw damagedHeader('The FLAC header does not begin with its stream facts', place);
    place += 4 + size;
    if (head[0]! & 128) return { info, comments, soundStart: place };
  }
}

function readStreamInfo(body: Uint8Array, byteOffset: number): StreamInfo {
  if (body.length < STREAMINFO_BYTES) {
    throw damagedHeader('The FLAC header is too short', byteOffset);
  }
  const view = viewOf(body);
  const packed = view.getUint32(10);
  const rateHz = packed >>> 12;
  const channels = ((packed >>> 9) & 7) + 1;
  const bits = ((packed >>> 4) & 31) + 1;
  const frames = (packed & 15) * 2 ** 32 + view.getUint32(14);
  if (!isRate(rateHz)) {
    throw damagedHeader(`The FLAC header says a sample rate of ${rateHz} Hz`, byteOffset + 10);
  }
  if (bits < 4) throw damagedHeader(`The FLAC header says ${bits} bits`, byteOffset + 12);
  const sum = body.subarray(18, 34);
  const md5 = sum.every((byte) => byte === 0)
    ? null
    : [...sum].map((byte) => byte.toString(16).padStart(2, '0')).join('');
  return { rateHz, channels, bits, frames: frames > 0 ? frames : null, md5 };
}

/** Where FLAC keeps layouts other than the usual ones (RFC 9639, 8.6.2). */
const MASK_FIELD = 'WAVEFORMATEXTENSIBLE_CHANNEL_MASK';

/** The stated mask; 0 without one. */
export function speakersOfComments(comments: ReadonlyMap<string, string>): number {
  const text = comments.get(MASK_FIELD)?.trim() ?? '';
  return /^0x[0-9a-f]{1,8}$/i.test(text) ? Number(text) : 0;
}

/** The comment that states a layout; none for the usual one. */
export function speakerComment({ speakerMask, channelCount }: PcmStream): string[] {
  if (!isUnusualMask(speakerMask, channelCount)) return [];
  return [`${MASK_FIELD}=0x${speakerMask.toString(16).toUpperCase().padStart(4, '0')}`];
}

export function isFlac(head: Uint8Array): boolean {
  return ascii(head, 0, 4) === 'fLaC';
}
