import { Fields, msbCrc, type Faults } from './bytes';
import { checkComments } from './comments';

const crc32 = msbCrc(32, 0x04c11db7);

/** Ogg (RFC 3533) with Vorbis I or Opus (RFC 7845). */
export function checkOgg(file: Fields, faults: Faults): void {
  const { pages, packets } = readPages(file, faults);
  const first = new Fields(packets[0]?.data ?? new Uint8Array(0));
  faults.same('packets on the first page', packets.filter(({ page }) => page === 0).length, 1);
  if (first.text(0, 8) === 'OpusHead') checkOpus(first, packets, pages, faults);
  else if (first.text(1, 6) === 'vorbis') checkVorbis(first, packets, pages, faults);
  else throw new Error('an unknown codec');
}

interface Page {
  granule: bigint;
}
interface Packet {
  data: Uint8Array;
  page: number;
}

function readPages(file: Fields, faults: Faults): { pages: Page[]; packets: Packet[] } {
  const pages: Page[] = [];
  const packets: Packet[] = [];
  let open: Uint8Array[] = [];
  let at = 0;
  const serial = file.le32(14);
  while (at < file.size) {
    faults.same('a page', file.text(at, 5), 'OggS\0');
    const flags = file.u8(at + 5);
    const lacing = [...file.part(at + 27, file.u8(at + 26))];
    const bytes = 27 + lacing.length + lacing.reduce((sum, size) => sum + size, 0);
    const copy = file.part(at, bytes).slice();
    copy.fill(0, 22, 26);
    faults.same('the checksum of a page', file.le32(at + 22), crc32(copy));
    faults.same('the stream of a page', file.le32(at + 14), serial);
    faults.same('the number of a page', file.le32(at + 18), pages.length);
    faults.same('whether a page goes on', (flags & 1) !== 0, open.length > 0);
    faults.same('whether a page is the first', (flags & 2) !== 0, pages.length === 0);
    faults.same('whether a page is the last', (flags & 4) !== 0, at + bytes >= file.size);
    const granule = file.le64(at + 6);
    const ends = lacing.some((size) => size < 255);
    faults.same('whether a page has a position', granule !== -1n, ends);
    let place = at + 27 + lacing.length;
    for (const size of lacing) {
      open.push(file.part(place, size));
      place += size;
      if (size === 255) continue;
      packets.push({ data: Buffer.concat(open), page: pages.length });
      open = [];
    }
    pages.push({ granule });
    at += bytes;
  }
  faults.same('bytes behind the last page', at, file.size);
  faults.must('the last packet has no end', open.length === 0);
  const stated = pages.map(({ granule }) => granule).filter((granule) => granule >= 0n);
  faults.must(
    'positions go back',
    stated.every((granule, i) => i === 0 || granule >= stated[i - 1]!),
  );
  return { pages, packets };
}

/** Headers fill pages of their own: sound begins on a new one. */
function checkHeaders(
  packets: readonly Packet[],
  count: number,
  pages: Page[],
  faults: Faults,
): void {
  const sound = packets[count];
  if (!sound) throw new Error('there is no sound');
  faults.must('sound on a page of the headers', sound.page > packets[count - 1]!.page);
  for (let i = 0; i < sound.page; i++) {
    faults.must('a header with a position', pages[i]!.granule <= 0n);
  }
}

function checkOpus(head: Fields, packets: readonly Packet[], pages: Page[], faults: Faults): void {
  faults.same('the size of the head', head.size, 19);
  faults.same('its version', head.u8(8), 1);
  faults.must(`${head.u8(9)} channels`, head.u8(9) === 1 || head.u8(9) === 2);
  faults.same('the family', head.u8(18), 0);
  const comments = new Fields(packets[1]!.data);
  faults.same('the second packet', comments.text(0, 8), 'OpusTags');
  checkComments(comments, 8, comments.size - 8, faults);
  checkHeaders(packets, 2, pages, faults);
  let position = 0;
  let last = 0;
  packets.slice(2).forEach(({ data, page }, i, sound) => {
    last = opusFrames(data);
    position += last;
    if (sound[i + 1]?.page === page) return;
    const stated = Number(pages[page]!.granule);
    const isLast = i === sound.length - 1;
    if (!isLast) faults.same('a position', stated, position);
    else
      faults.must(
        'the end is not in the last packet',
        stated <= position && stated > position - last,
      );
    if (isLast) faults.must('nothing is left behind the pre-skip', stated > head.le16(10));
  });
}

/** Length of a packet at 48 kHz (RFC 6716, 3.1). */
export function opusFrames(packet: Uint8Array): number {
  const config = packet[0]! >> 3;
  const code = packet[0]! & 3;
  const ms =
    config < 12
      ? [10, 20, 40, 60][config & 3]!
      : config < 16
        ? [10, 20][config & 1]!
        : [2.5, 5, 10, 20][config & 3]!;
  const count = code === 0 ? 1 : code < 3 ? 2 : packet[1]! & 63;
  return ms * 48 * count;
}

function checkVorbis(
  head: Fields,
  packets: readonly Packet[],
  pages: Page[],
  faults: Faults,
): void {
  faults.same('the size of the head', head.size, 30);
  faults.same('its kind and version', `${head.u8(0)} ${head.le32(7)}`, '1 0');
  const [small, large] = [head.u8(28) & 15, head.u8(28) >> 4];
  faults.must('the block sizes', small >= 6 && small <= large && large <= 13);
  faults.same('the framing bit', head.u8(29), 1);
  const comments = new Fields(packets[1]!.data);
  faults.same('the second packet', comments.text(0, 7), '\x03vorbis');
  checkComments(comments, 7, comments.size - 7, faults, 1);
  faults.same('its framing bit', comments.u8(comments.size - 1), 1);
  faults.same('the third packet', new Fields(packets[2]!.data).text(0, 7), '\x05vorbis');
  checkHeaders(packets, 3, pages, faults);
  faults.must('no sound', pages.at(-1)!.granule > 0n);
}
