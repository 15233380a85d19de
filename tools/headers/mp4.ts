import type { Faults, Fields } from './bytes';

/** M4A with one track of AAC-LC (ISO/IEC 14496-12 and -14, 14496-3 for what describes the codec). */
export function checkMp4(file: Fields, faults: Faults): void {
  const top = boxesOf(file, 0, file.size, faults);
  faults.same('the first box', top[0]?.type, 'ftyp');
  const movie = named(top, 'moov');
  const data = named(top, 'mdat');
  const filler = top.filter(({ type }) => type === 'free').reduce((sum, { size }) => sum + size, 0);
  faults.must(`${filler} bytes of filler`, filler <= 16);
  faults.must('the index stands behind the sound', movie.at < data.at);
  const inside = (parent: Box, skip = 0) => boxesOf(file, parent.at + skip, parent.end, faults);
  const movieParts = inside(movie);
  const track = inside(named(movieParts, 'trak'));
  const media = inside(named(track, 'mdia'));
  const info = inside(named(media, 'minf'));
  const table = inside(named(info, 'stbl'));
  const [mvhd, tkhd] = [named(movieParts, 'mvhd').at, named(track, 'tkhd').at];
  const mdhd = named(media, 'mdhd').at;
  const [edit] = inside(named(track, 'edts'));
  faults.same('the handler', file.text(named(media, 'hdlr').at + 8, 4), 'soun');
  const identity = '00010000' + '0'.repeat(24) + '00010000' + '0'.repeat(24) + '40000000';
  const hex = (at: number, length: number) => Buffer.from(file.part(at, length)).toString('hex');
  faults.same('the matrix of the movie', hex(mvhd + 36, 36), identity);
  faults.same('the matrix of the track', hex(tkhd + 40, 36), identity);
  faults.same('rate and volume of the movie', hex(mvhd + 20, 6), '000100000100');
  faults.same('volume of the track', file.be16(tkhd + 36), 0x100);
  faults.same('the next track', file.be32(mvhd + 96), file.be32(tkhd + 12) + 1);
  faults.same('movies and tracks without dates', file.be32(mvhd + 4) + file.be32(tkhd + 4), 0);
  const scale = file.be32(mdhd + 12);
  faults.same('the time scale of the movie', file.be32(mvhd + 12), scale);
  faults.same('the version of the edit list', file.u8(edit!.at), 0);
  faults.same('the number of edits', file.be32(edit!.at + 4), 1);
  const frames = file.be32(edit!.at + 8);
  faults.same('the duration of the movie', file.be32(mvhd + 16), frames);
  faults.same('the duration of the track', file.be32(tkhd + 20), frames);
  const duration = file.be32(mdhd + 16);
  faults.same('what edits leave of the media', duration - file.be32(edit!.at + 12), frames);
  const packets = checkTables(file, table, data, faults);
  faults.same('the duration of all packets', packets.duration, duration);
  checkDescription(file, named(table, 'stsd'), scale, packets, faults);
  const tags = movieParts.find(({ type }) => type === 'udta');
  if (tags) checkTags(file, inside(tags), faults);
}

interface Box {
  type: string;
  size: number;
  at: number;
  end: number;
}

/** Boxes that fill a span to its end. */
function boxesOf(file: Fields, from: number, to: number, faults: Faults): Box[] {
  const found: Box[] = [];
  let at = from;
  while (at + 8 <= to) {
    const size = file.be32(at);
    if (size < 8) throw new Error(`a box of ${size} bytes`);
    found.push({ type: file.text(at + 4, 4), size, at: at + 8, end: at + size });
    at += size;
  }
  faults.same('the end of the last box', at, to);
  return found;
}

function named(boxes: readonly Box[], type: string): Box {
  const found = boxes.filter((box) => box.type === type);
  if (found.length !== 1) throw new Error(`${found.length} boxes ${type}`);
  return found[0]!;
}

function checkTables(file: Fields, table: readonly Box[], data: Box, faults: Faults) {
  const entries = (type: string, words: number) => {
    const { at, end } = named(table, type);
    const count = file.be32(at + 4);
    faults.same(`the size of ${type}`, end - at, 8 + count * words * 4);
    return Array.from({ length: count }, (_, i) =>
      Array.from({ length: words }, (_, w) => file.be32(at + 8 + (i * words + w) * 4)),
    );
  };
  const times = entries('stts', 2);
  const timed = times.reduce((sum, [count]) => sum + count!, 0);
  const duration = times.reduce((sum, [count, each]) => sum + count! * each!, 0);
  const { at, end } = named(table, 'stsz');
  const count = file.be32(at + 8);
  faults.same('a common size', file.be32(at + 4), 0);
  faults.same('the size of stsz', end - at, 12 + count * 4);
  const sizes = Array.from({ length: count }, (_, i) => file.be32(at + 12 + i * 4));
  faults.same('packets with a time', timed, count);
  const chunks = entries('stco', 1).map(([place]) => place!);
  const runs = entries('stsc', 3);
  let packet = 0;
  let place = data.at;
  chunks.forEach((start, c) => {
    const run = runs.findLast(([first]) => first! <= c + 1)!;
    faults.same('the place of a chunk', start, place);
    faults.same('its description', run[2], 1);
    if (run[1]! > count) throw new Error(`a chunk of ${run[1]} packets`);
    for (let n = 0; n < run[1]!; n++) place += sizes[packet++] ?? NaN;
  });
  faults.same('packets in chunks', packet, count);
  faults.same('the end of the packets', place, data.end);
  return {
    duration,
    bytes: data.end - data.at,
    count,
    largest: Math.max(...sizes.slice(0, 50_000)),
  };
}

const RATES = [
  96_000, 88_200, 64_000, 48_000, 44_100, 32_000, 24_000, 22_050, 16_000, 12_000, 11_025, 8_000,
  7_350,
];

function checkDescription(
  file: Fields,
  description: Box,
  rate: number,
  packets: { bytes: number; count: number; largest: number },
  faults: Faults,
): void {
  const [entry] = boxesOf(file, description.at + 8, description.end, faults);
  faults.same('the kind of sound', entry?.type, 'mp4a');
  const { at, end } = entry!;
  faults.must('the rate of the entry', [rate, 0].includes(file.be16(at + 24)));
  faults.must('a high rate in sixteen bits', rate < 65_536 || file.be16(at + 24) === 0);
  const [esds] = boxesOf(file, at + 28, end, faults);
  const stream = descriptor(file, esds!.at + 4, 3);
  faults.same('the end of the description', stream.end, esds!.end);
  const decoder = descriptor(file, stream.at + 3, 4);
  faults.same('codec and stream', file.be16(decoder.at), 0x4015);
  faults.must('a buffer smaller than a packet', file.be24(decoder.at + 2) >= packets.largest);
  const average = (packets.bytes * 8 * rate) / (packets.count * 1_024);
  faults.must('the average bit rate', Math.abs(file.be32(decoder.at + 9) - average) <= 1);
  const config = descriptor(file, decoder.at + 13, 5);
  const sync = descriptor(file, decoder.end, 6);
  faults.same('the end of the stream', sync.end, stream.end);
  const bits = file.be16(config.at);
  faults.same('the object type', bits >> 11, 2);
  faults.same('the rate of the codec', RATES[(bits >> 7) & 15], rate);
  faults.same('the channels of the codec', (bits >> 3) & 15, file.be16(at + 16));
}

/** A descriptor: its tag, its length in bytes of seven bits, its body. */
function descriptor(file: Fields, from: number, tag: number): { at: number; end: number } {
  if (file.u8(from) !== tag) throw new Error(`descriptor ${file.u8(from)} where ${tag} belongs`);
  let at = from + 1;
  let size = 0;
  for (;;) {
    const byte = file.u8(at++);
    size = size * 128 + (byte & 127);
    if (byte < 128) return { at, end: at + size };
  }
}

function checkTags(file: Fields, [meta]: Box[], faults: Faults): void {
  const parts = boxesOf(file, meta!.at + 4, meta!.end, faults);
  faults.same('the handler of the tags', file.text(named(parts, 'hdlr').at + 8, 8), 'mdirappl');
  const list = named(parts, 'ilst');
  for (const item of boxesOf(file, list.at, list.end, faults)) {
    const [value, ...more] = boxesOf(file, item.at, item.end, faults);
    faults.same('the parts of a tag', [value, ...more].map((box) => box?.type).join(), 'data');
    faults.same(`the kind of ${item.type}`, file.be32(value!.at), item.type === 'trkn' ? 0 : 1);
  }
}
