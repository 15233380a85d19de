import { msbCrc, type Faults, type Fields } from './bytes';
import { checkComments } from './comments';

const crc8 = msbCrc(8, 0x07);
const crc16 = msbCrc(16, 0x8005);

/** FLAC (RFC 9639). */
export function checkFlac(file: Fields, faults: Faults): void {
  faults.same('the mark', file.text(0, 4), 'fLaC');
  faults.same('the first block', file.u8(4) & 127, 0);
  faults.same('the size of STREAMINFO', file.be24(5), 34);
  const info = {
    blocks: [file.be16(8), file.be16(10)] as const,
    frames: [file.be24(12), file.be24(15)] as const,
    rate: (file.be16(18) << 4) | (file.u8(20) >> 4),
    channels: ((file.u8(20) >> 1) & 7) + 1,
    bits: (((file.u8(20) & 1) << 4) | (file.u8(21) >> 4)) + 1,
    total: (file.u8(21) & 15) * 2 ** 32 + file.be32(22),
  };
  faults.must(
    'no checksum of the sound',
    file.part(26, 16).some((byte) => byte !== 0),
  );
  let at = 4;
  for (let isLast = false; !isLast;) {
    isLast = file.u8(at) >= 128;
    const size = file.be24(at + 1);
    if ((file.u8(at) & 127) === 4) checkComments(file, at + 4, size, faults);
    at += 4 + size;
  }
  let number = 0;
  let total = 0;
  const sizes: number[] = [];
  while (at < file.size) {
    const head = readHead(file, at);
    if (!head) throw new Error(`no frame at byte ${at}`);
    faults.same('a frame number', head.number, number++);
    faults.must(`a frame at ${head.rate} Hz`, head.rate === 0 || head.rate === info.rate);
    faults.same('the bits of a frame', head.bits || info.bits, info.bits);
    faults.same('the channels of a frame', head.channels, info.channels);
    let end = at + head.bytes + 2;
    while (end < file.size && !(readHead(file, end) && crc16(file.part(at, end - at)) === 0)) end++;
    faults.same('the checksum of a frame', crc16(file.part(at, end - at)), 0);
    const isLast = end >= file.size;
    faults.must('a frame of another length', isLast || head.blockSize === info.blocks[0]);
    total += head.blockSize;
    sizes.push(end - at);
    at = end;
  }
  faults.same('the number of samples', total, info.total);
  faults.same(
    'the smallest frame',
    sizes.reduce((a, b) => Math.min(a, b), Infinity),
    info.frames[0],
  );
  faults.same(
    'the largest frame',
    sizes.reduce((a, b) => Math.max(a, b), 0),
    info.frames[1],
  );
  faults.must('a block of less than 16', info.blocks[0] >= 16 || total < 16);
}

const RATES = [
  0, 88_200, 176_400, 192_000, 8_000, 16_000, 22_050, 24_000, 32_000, 44_100, 48_000, 96_000,
];
const BITS = [0, 8, 12, NaN, 16, 20, 24, 32];

/** The head of a frame whose checksum holds; a rate of 0 is that of STREAMINFO. */
function readHead(file: Fields, at: number) {
  if (at + 6 > file.size || file.be16(at) !== 0xfff8) return null;
  let place = at + 4;
  const first = file.u8(place);
  const more = first < 0x80 ? 0 : Math.clz32(~(first << 24)) - 1;
  let number = first < 0x80 ? first : first & (0x3f >> more);
  for (let i = 1; i <= more && place + i < file.size; i++)
    number = number * 64 + (file.u8(place + i) & 63);
  place += 1 + more;
  if (place + 4 > file.size) return null;
  const sizeCode = file.u8(at + 2) >> 4;
  const rateCode = file.u8(at + 2) & 15;
  const assignment = file.u8(at + 3) >> 4;
  let blockSize = sizeCode === 1 ? 192 : sizeCode < 6 ? 576 << (sizeCode - 2) : 1 << sizeCode;
  if (sizeCode === 6) blockSize = file.u8(place++) + 1;
  if (sizeCode === 7) blockSize = file.be16((place += 2) - 2) + 1;
  let rate = RATES[rateCode] ?? NaN;
  if (rateCode === 12) rate = file.u8(place++) * 1_000;
  if (rateCode === 13) rate = file.be16((place += 2) - 2);
  if (rateCode === 14) rate = file.be16((place += 2) - 2) * 10;
  if (place >= file.size || crc8(file.part(at, place - at)) !== file.u8(place)) return null;
  if (assignment > 10 || file.u8(at + 3) & 1) return null;
  return {
    number,
    blockSize,
    rate,
    bits: BITS[(file.u8(at + 3) >> 1) & 7] ?? NaN,
    channels: assignment < 8 ? assignment + 1 : 2,
    bytes: place + 1 - at,
  };
}
