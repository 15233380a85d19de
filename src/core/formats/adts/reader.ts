import { pieces, type ByteSource } from '../../bytes/source';
import { aacFormat, decodeAac, PACKET_FRAMES } from '../aac/decode';
import { joinBytes } from '../bits';
import { damagedHeader, damagedSound, truncated } from '../problems';
import { readId3v2, tagBytesAtEnd } from '../tags/id3';
import type { OpenedFile, ReaderKind, Warning } from '../types';
import { plural } from '../../words';

/** AAC as a bare stream with a header in front of every packet (ISO/IEC 14496-3, 1.A.2.2). */
export const adtsReader: ReaderKind = {
  id: 'adts',
  name: 'ADTS',
  codecs: 'AAC-LC, HE-AAC',
  extensions: ['aac', 'adts'],
  detect: (head) => firstFrame(head, 0, 4_096) !== null,
  open: openAdts,
};

const RATES = [
  96_000, 88_200, 64_000, 48_000, 44_100, 32_000, 24_000, 22_050, 16_000, 12_000, 11_025, 8_000,
  7_350,
];

interface AdtsHeader {
  bytes: number;
  headerBytes: number;
  rateHz: number;
  /** AudioSpecificConfig of the same content. */
  config: Uint8Array;
}

/** Reads the header at `at`; null where none can begin. */
function readHeader(bytes: Uint8Array, at: number): AdtsHeader | null {
  const [b0 = 0, b1 = 0, b2 = 0, b3 = 0, b4 = 0, b5 = 0] = bytes.subarray(at, at + 6);
  // Twelve bits of sync, and the layer bits, which are 0 here and never in MPEG audio layers I to III.
  if (b0 !== 0xff || (b1 & 0xf6) !== 0xf0) return null;
  const rateIndex = (b2 >> 2) & 15;
  const rateHz = RATES[rateIndex];
  const type = (b2 >> 6) + 1;
  const channels = ((b2 & 1) << 2) | (b3 >> 6);
  const length = ((b3 & 3) << 11) | (b4 << 3) | (b5 >> 5);
  const headerBytes = b1 & 1 ? 7 : 9;
  if (rateHz === undefined || channels === 0 || length <= headerBytes) return null;
  const config = Uint8Array.of(
    (type << 3) | (rateIndex >> 1),
    ((rateIndex & 1) << 7) | (channels << 3),
  );
  return { bytes: length, headerBytes, rateHz, config };
}

/** A frame counts as found when another follows where it ends, or the bytes end there. */
function firstFrame(bytes: Uint8Array, from: number, limit: number) {
  for (let at = from; at < Math.min(limit, bytes.length - 7); at++) {
    const header = readHeader(bytes, at);
    if (!header) continue;
    const next = at + header.bytes;
    const follows = next + 7 <= bytes.length && readHeader(bytes, next)?.rateHz === header.rateHz;
    if (follows || (at === from && next >= bytes.length)) return { at, header };
  }
  return null;
}

async function openAdts(source: ByteSource): Promise<OpenedFile> {
  const { soundStart, tags } = await readId3v2(source);
  const end = source.size - (await tagBytesAtEnd(source)).bytes;
  const found = firstFrame(await source.read(soundStart, 1 << 16), 0, 1 << 15);
  if (!found) throw damagedHeader('No AAC frame was found behind the tags', soundStart);
  const start = soundStart + found.at;
  const warnings: Warning[] = [];
  const beginning: Uint8Array[] = [];
  for await (const packet of packetsOf(source, start, end)) {
    beginning.push(packet);
    if (beginning.length === 4) break;
  }
  const { config, rateHz: coreRateHz } = found.header;
  // The decoder gives nothing for the first packet: a stream of one is decoded twice over.
  const trial = beginning.length === 1 ? [...beginning, ...beginning] : beginning;
  const format = await aacFormat(config, coreRateHz, trial);
  if (!format) throw damagedSound('ADTS');
  warnings.push({
    code: 'no-delay-header',
    message:
      'A bare AAC stream does not say how much silence its encoder added, so a little is left at both ends.',
  });
  return {
    header: {
      container: 'adts',
      codec: format.isHe ? 'he-aac' : 'aac',
      sampleRateHz: format.rateHz,
      channels: format.channels,
      bitDepth: null,
      frames: null,
      tags,
    },
    warnings,
    pcm: (startFrame = 0) => ({
      rateHz: format.rateHz,
      channelCount: format.channels,
      frames: null,
      gridBits: null,
      blocks: decodeAac(
        packetsOf(source, start, end, (left) =>
          warnings.push(truncated(`its last AAC packet is not complete (${plural(left, 'byte')})`)),
        ),
        format,
        warnings,
        { mediaStart: PACKET_FRAMES, frames: null, startFrame },
      ),
    }),
  };
}

/** The packets without their headers; what is no frame is passed over. */
async function* packetsOf(
  source: ByteSource,
  start: number,
  end: number,
  onRest?: (bytes: number) => void,
): AsyncGenerator<Uint8Array> {
  let rest: Uint8Array = new Uint8Array(0);
  for await (const piece of pieces(source, start, end)) {
    const bytes = joinBytes(rest, piece);
    let at = 0;
    while (at + 7 <= bytes.length) {
      const header = readHeader(bytes, at);
      if (!header) {
        at++;
        continue;
      }
      if (at + header.bytes > bytes.length) break;
      yield bytes.slice(at + header.headerBytes, at + header.bytes);
      at += header.bytes;
    }
    rest = bytes.subarray(at);
  }
  if (rest.length >= 7) onRest?.(rest.length);
}
