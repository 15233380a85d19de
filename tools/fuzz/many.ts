import { ByteWriter, joinBytes } from '@/core/formats/bits';
import { element, ID } from '@/core/formats/webm/ebml';

/**
 * Files made of very many small parts: what is harmless once is asked for a million times. Each structure
 * takes a whole file of its kind and answers one of about so many bytes.
 */
type Structure = (whole: Uint8Array, bytes: number) => Uint8Array;

/** As many copies of a part as make up so many bytes. */
function repeated(part: Uint8Array, bytes: number): Uint8Array {
  const out = new Uint8Array(Math.max(1, Math.floor(bytes / part.length)) * part.length);
  for (let at = 0; at < out.length; at += part.length) out.set(part, at);
  return out;
}

/** Bytes put in at a place. */
function inserted(whole: Uint8Array, at: number, more: Uint8Array): Uint8Array {
  return joinBytes(whole.subarray(0, at), more, whole.subarray(at));
}

/** Where the name of a part begins. */
function placeOf(whole: Uint8Array, name: string): number {
  const at = Buffer.from(whole.buffer, whole.byteOffset, whole.length).indexOf(name, 0, 'latin1');
  if (at < 0) throw new Error(`there is no ${name}`);
  return at;
}

const little = (id: string, ...parts: Uint8Array[]) => {
  const body = joinBytes(...parts);
  return new ByteWriter().text(id).u32le(body.length).raw(body).bytes();
};
const big = (id: string, ...parts: Uint8Array[]) => {
  const body = joinBytes(...parts);
  return new ByteWriter().text(id).u32be(body.length).raw(body).bytes();
};
/** A box of MP4: its length counts its head. */
const box = (id: string, ...parts: Uint8Array[]) => {
  const body = joinBytes(...parts);
  return new ByteWriter()
    .u32be(body.length + 8)
    .text(id)
    .raw(body)
    .bytes();
};
const none = new Uint8Array(0);
const MEBIBYTE = 2 ** 20;

const wav: Record<string, Structure> = {
  'empty chunks in front': (whole, n) => inserted(whole, 12, repeated(little('junk'), n)),
  'empty chunks of many names': (whole, n) => {
    const out = new ByteWriter();
    for (let i = 0; i < n / 8; i++) out.u32be(0x41414141 + i).u32le(0);
    return inserted(whole, placeOf(whole, 'data'), out.bytes());
  },
  'chunks of tags': (whole, n) => {
    const list = little(
      'LIST',
      new ByteWriter().text('INFO').bytes(),
      little('INAM', Buffer.from('ab')),
    );
    return joinBytes(whole, repeated(list, n));
  },
  'cue points': (whole, n) => {
    const points = Math.floor(Math.min(n, MEBIBYTE - 8) / 24);
    const cue = new ByteWriter().u32le(points);
    for (let i = 0; i < points; i++) cue.u32le(i).u32le(i).text('data').u32le(0).u32le(0).u32le(i);
    return joinBytes(whole, repeated(little('cue ', cue.bytes()), n));
  },
  'labels of cue points': (whole, n) => {
    const label = little('labl', new ByteWriter().u32le(1).raw(Buffer.from('a\0')).bytes());
    const list = little('LIST', Buffer.from('adtl'), repeated(label, Math.min(n, MEBIBYTE - 100)));
    return joinBytes(whole, repeated(list, n));
  },
};

const aiff: Record<string, Structure> = {
  'empty chunks': (whole, n) => inserted(whole, 12, repeated(big('APPL'), n)),
  'chunks of text': (whole, n) => joinBytes(whole, repeated(big('ANNO', Buffer.from('ab')), n)),
  markers: (whole, n) => {
    const count = Math.min(65_535, Math.floor(n / 8));
    const mark = new ByteWriter().u16be(count);
    for (let i = 0; i < count; i++) mark.u16be(i).u32be(i).u8(1).text('a');
    return joinBytes(whole, repeated(big('MARK', mark.bytes()), n));
  },
};

const flacBlock = (type: number, body: Uint8Array) =>
  new ByteWriter().u8(type).u24be(body.length).raw(body).bytes();
const comments = (entries: number) => {
  const out = new ByteWriter().u32le(0).u32le(entries);
  return joinBytes(
    out.bytes(),
    repeated(new ByteWriter().u32le(3).text('A=b').bytes(), entries * 7),
  );
};

const flac: Record<string, Structure> = {
  'empty blocks': (whole, n) => inserted(whole, 42, repeated(flacBlock(1, none), n)),
  'blocks of comments': (whole, n) => inserted(whole, 42, repeated(flacBlock(4, comments(2)), n)),
  comments: (whole, n) =>
    inserted(whole, 42, flacBlock(4, comments(Math.floor(Math.min(n, 4 * MEBIBYTE) / 7) - 2))),
  'heads of frames': (whole, n) =>
    joinBytes(openEnded(whole), repeated(silentFrame().subarray(0, 8), n)),
  'heads without a rate': (whole, n) =>
    joinBytes(openEnded(whole), repeated(Uint8Array.of(0xff, 0xf8, 0xc0, 0x18, 0, 0xa8), n)),
  'frames of silence': (whole, n) => joinBytes(openEnded(whole), repeated(silentFrame(), n)),
};

/** The head of a file with nothing but its stream facts, which leave length and sum open. */
function openEnded(whole: Uint8Array): Uint8Array {
  const head = whole.slice(0, 42).fill(0, 22);
  head[4]! |= 0x80;
  head[21]! &= 0xf0;
  return head;
}

/** 65,535 frames of silence in stereo of 16 bits, at 48 kHz: sixteen bytes. */
function silentFrame(): Uint8Array {
  const frame = Uint8Array.of(0xff, 0xf8, 0x7a, 0x18, 0, 0xff, 0xfe, 0, 0, 0, 0, 0, 0, 0, 0, 0);
  frame[7] = sumOf(frame.subarray(0, 7), 8, 0x07);
  const sum = sumOf(frame.subarray(0, 14), 16, 0x8005);
  frame.set([sum >> 8, sum & 0xff], 14);
  return frame;
}

/** A cyclic checksum of so many bits. */
function sumOf(bytes: Uint8Array, bits: number, polynomial: number): number {
  let sum = 0;
  for (const byte of bytes) {
    sum ^= byte << (bits - 8);
    for (let bit = 0; bit < 8; bit++) {
      sum = sum & (1 << (bits - 1)) ? (sum << 1) ^ polynomial : sum << 1;
    }
    sum &= 2 ** bits - 1;
  }
  return sum;
}

const emptyId3 = Uint8Array.of(0x49, 0x44, 0x33, 3, 0, 0, 0, 0, 0, 0);
/** A tag of ID3v2.3 around some frames. */
const id3 = (body: Uint8Array) =>
  joinBytes(
    Uint8Array.of(0x49, 0x44, 0x33, 3, 0, 0),
    Uint8Array.from([21, 14, 7, 0].map((shift) => (body.length >> shift) & 127)),
    body,
  );
const id3Frame = (id: string) =>
  new ByteWriter().text(id).u32be(2).u16be(0).u8(0).text('a').bytes();

const mp3: Record<string, Structure> = {
  'empty tags': (whole, n) => joinBytes(repeated(emptyId3, n), whole),
  'frames of a tag': (whole, n) => joinBytes(id3(repeated(id3Frame('TIT2'), n)), whole),
  'bytes of sync': (whole, n) => joinBytes(whole, repeated(Uint8Array.of(0xff, 0xfb), n)),
  'frames that are too short': (whole, n) =>
    joinBytes(
      whole,
      repeated(joinBytes(Uint8Array.of(0xff, 0xf3, 0x14, 0xc4), new Uint8Array(20)), n),
    ),
};

/** A page of Ogg; its checksum is not looked at. */
const page = (serial: number, lacing: readonly number[]) => {
  const head = new ByteWriter().text('OggS').u8(0).u8(0).i64le(0n).u32le(serial).u32le(0).u32le(0);
  const bytes = lacing.reduce((sum, size) => sum + size, 0);
  return head.u8(lacing.length).raw(Uint8Array.from(lacing)).raw(new Uint8Array(bytes)).bytes();
};
const serialOf = (whole: Uint8Array) =>
  new DataView(whole.buffer, whole.byteOffset).getUint32(14, true);
/** Behind the last page of the headers, which the second page ends in short files. */
const ogg: Record<string, Structure> = {
  'empty pages': (whole, n) => joinBytes(whole, repeated(page(serialOf(whole), []), n)),
  'pages of another stream': (whole, n) => {
    const second = Buffer.from(whole.buffer, whole.byteOffset, whole.length).indexOf('OggS', 4);
    return inserted(whole, second, repeated(page(serialOf(whole) + 1, [1]), n));
  },
  'packets of no bytes': (whole, n) =>
    joinBytes(whole, repeated(page(serialOf(whole), new Array<number>(255).fill(0)), n)),
  'packets of one byte': (whole, n) =>
    joinBytes(whole, repeated(page(serialOf(whole), new Array<number>(255).fill(1)), n)),
  'beginnings of pages': (whole, n) => joinBytes(whole, repeated(Buffer.from('OggS'), n)),
};

const adts: Record<string, Structure> = {
  'packets of one byte': (whole, n) =>
    joinBytes(
      whole,
      repeated(joinBytes(whole.subarray(0, 3), Uint8Array.of(0x40, 0x01, 0, 0xfc, 0)), n),
    ),
  'bytes of sync': (whole, n) => joinBytes(whole, repeated(Uint8Array.of(0xff, 0xf1), n)),
  'empty tags': (whole, n) => joinBytes(repeated(emptyId3, n), whole),
};

const webm: Record<string, Structure> = {
  'empty elements': (whole, n) => joinBytes(whole, repeated(element(0xec), n)),
  'blocks without packets': (whole, n) =>
    joinBytes(whole, repeated(element(ID.simpleBlock, Uint8Array.of(0x81, 0, 0, 0)), n)),
  'blocks of many packets': (whole, n) => {
    const laced = Uint8Array.from([0x81, 0, 0, 0x02, 255, ...new Array<number>(255).fill(0)]);
    return joinBytes(whole, repeated(element(ID.simpleBlock, laced), n));
  },
  'blocks of another track': (whole, n) =>
    joinBytes(whole, repeated(element(ID.simpleBlock, Uint8Array.of(0x82, 0, 0, 0)), n)),
  clusters: (whole, n) => joinBytes(whole, repeated(element(ID.cluster), n)),
  tags: (whole, n) => {
    const simple = element(
      ID.simpleTag,
      element(ID.tagName, Buffer.from('A')),
      element(ID.tagString),
    );
    return joinBytes(whole, repeated(element(ID.tags, element(ID.tag, simple)), n));
  },
  'tags in one': (whole, n) => {
    const simple = element(
      ID.simpleTag,
      element(ID.tagName, Buffer.from('A')),
      element(ID.tagString),
    );
    return joinBytes(whole, element(ID.tags, repeated(element(ID.tag, simple), n)));
  },
};

/** A file of MP4 with more in its index, whose own packets then lie elsewhere. */
const inIndex = (whole: Uint8Array, more: Uint8Array) => {
  const at = placeOf(whole, 'moov') - 4;
  const size = new DataView(whole.buffer, whole.byteOffset).getUint32(at);
  const index = box('moov', whole.subarray(at + 8, at + size), more);
  return joinBytes(whole.subarray(0, at), index, whole.subarray(at + size));
};
const mp4: Record<string, Structure> = {
  'empty boxes in front': (whole, n) =>
    inserted(whole, placeOf(whole, 'ftyp') - 4, repeated(box('free'), n)),
  'empty boxes in the index': (whole, n) => inIndex(whole, repeated(box('free'), n)),
  tracks: (whole, n) => inIndex(whole, repeated(box('trak'), n)),
  'described tracks': (whole, n) => {
    const handler = box('hdlr', new Uint8Array(8), Buffer.from('soun'), new Uint8Array(13));
    return inIndex(whole, repeated(box('trak', box('mdia', handler)), n));
  },
  edits: (whole, n) => {
    const list = new ByteWriter()
      .u32be(0)
      .u32be(Math.floor(n / 12))
      .bytes();
    const edits = box('edts', box('elst', list, repeated(new Uint8Array(12).fill(1), n)));
    return inIndex(whole, box('trak', edits));
  },
  'boxes in boxes': (whole, n) => {
    const out = new ByteWriter();
    for (let left = Math.floor(n / 8) * 8; left >= 8; left -= 8) out.u32be(left).text('udta');
    return inIndex(whole, out.bytes());
  },
  'boxes of tags': (whole, n) =>
    inIndex(whole, repeated(box('meta', new Uint8Array(4), box('ilst')), n)),
  'tags in one': (whole, n) =>
    inIndex(whole, box('meta', new Uint8Array(4), box('ilst', repeated(box('free'), n)))),
};

/** Structures by the names of the files that they are made of. */
export const structures: Readonly<Record<string, Readonly<Record<string, Structure>>>> = {
  'wav 16': wav,
  aiff,
  flac,
  'mp3 cbr': mp3,
  vorbis: ogg,
  'ogg opus': ogg,
  adts,
  'webm opus': webm,
  'webm vorbis': webm,
  'm4a aac': mp4,
  'm4a alac': mp4,
};
