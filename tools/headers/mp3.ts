import { crc16Arc, type Faults, type Fields } from './bytes';
import { checkId3, id3Bytes } from './id3';

const KBPS = {
  first: [0, 32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320],
  second: [0, 8, 16, 24, 32, 40, 48, 56, 64, 80, 96, 112, 128, 144, 160],
};

/** A stream of layer III frames (ISO/IEC 11172-3, 13818-3) behind an ID3 tag, with the usual information frame. */
export function checkMp3(file: Fields, faults: Faults): void {
  const start = id3Bytes(file);
  if (start > 0) checkId3(file, 0, start, faults);
  const frames: Frame[] = [];
  let at = start;
  while (at < file.size) {
    const frame = readFrame(file, at);
    if (!frame) throw new Error(`no frame at byte ${at}`);
    frames.push(frame);
    at += frame.bytes;
  }
  faults.same('the end of the last frame', at, file.size);
  const [info, first, ...others] = frames;
  if (!info || !first) throw new Error('there is no sound');
  for (const { rate, channels } of [first, ...others]) {
    faults.same('the rate of a frame', rate, info.rate);
    faults.same('the channels of a frame', channels, info.channels);
  }
  const tag = info.at + 4 + info.side;
  const mark = file.text(tag, 4);
  const rates = new Set([first, ...others].map(({ kbps }) => kbps));
  faults.must(`a stream called ${mark}`, mark === 'Info' ? rates.size === 1 : mark === 'Xing');
  faults.same('the fields', file.be32(tag + 4), 15);
  faults.same('the number of frames', file.be32(tag + 8), frames.length - 1);
  faults.same('the bytes of the stream', file.be32(tag + 12), file.size - start);
  const seek = [...file.part(tag + 16, 100)];
  faults.must(
    'the seek table goes back',
    seek.every((x, i) => x >= (seek[i - 1] ?? 0)),
  );
  const more = tag + 120;
  const delay = file.be24(more + 21) >> 12;
  const padding = file.be24(more + 21) & 0xfff;
  faults.must(
    'no sound between delay and padding',
    (frames.length - 1) * info.samples > delay + padding,
  );
  faults.same('the length of the music', file.be32(more + 28), file.size - start);
  const music = file.bytes.subarray(first.at);
  faults.same('the checksum of the music', file.be16(more + 32), crc16Arc(music));
  const head = file.bytes.subarray(info.at, more + 34);
  faults.same('the checksum of the tag', file.be16(more + 34), crc16Arc(head));
}

interface Frame {
  at: number;
  bytes: number;
  rate: number;
  channels: number;
  samples: number;
  kbps: number;
  side: number;
}

function readFrame(file: Fields, at: number): Frame | null {
  if (at + 4 > file.size || file.be16(at) >> 5 !== 0x7ff) return null;
  const version = (file.u8(at + 1) >> 3) & 3;
  const isFirst = version === 3;
  if (version === 1 || ((file.u8(at + 1) >> 1) & 3) !== 1) return null;
  const kbps = (isFirst ? KBPS.first : KBPS.second)[file.u8(at + 2) >> 4];
  const base = [44_100, 48_000, 32_000][(file.u8(at + 2) >> 2) & 3];
  if (!kbps || !base) return null;
  const rate = base / (isFirst ? 1 : version === 2 ? 2 : 4);
  const samples = isFirst ? 1_152 : 576;
  const channels = file.u8(at + 3) >> 6 === 3 ? 1 : 2;
  const padding = (file.u8(at + 2) >> 1) & 1;
  const bytes = Math.floor((samples * kbps * 125) / rate) + padding;
  const side = isFirst ? (channels === 1 ? 17 : 32) : channels === 1 ? 9 : 17;
  return { at, bytes, rate, channels, samples, kbps, side };
}
