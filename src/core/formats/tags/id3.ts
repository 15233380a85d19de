import type { ByteSource } from '../../bytes/source';
import { tidyTags, type TagName, type Tags } from '../../marks';
import { PartCounter } from '../parts';
import { ascii, ByteWriter, decodeText, joinBytes, viewOf } from '../bits';

/** Text frames of ID3v2.3/2.4, and those of 2.2 behind them. */
const frameIds: Record<TagName, readonly string[]> = {
  title: ['TIT2', 'TT2'],
  artist: ['TPE1', 'TP1'],
  album: ['TALB', 'TAL'],
  genre: ['TCON', 'TCO'],
  year: ['TDRC', 'TYER', 'TYE'],
  comment: ['COMM', 'COM'],
  track: ['TRCK', 'TRK'],
};

const wanted = new Set(Object.values(frameIds).flat());

/** Tags are read up to this size; pictures inside can be large, but not this large. */
const MOST_TAG_BYTES = 32 << 20;

export interface Id3Found {
  /** Where the sound begins: behind all tags in front. */
  soundStart: number;
  tags: Tags;
}

function syncsafe(bytes: Uint8Array, at: number): number {
  let value = 0;
  for (let i = 0; i < 4; i++) value = value * 128 + (bytes[at + i]! & 127);
  return value;
}

/** Reads the ID3v2 tags in front of a file (id3.org, versions 2.2 to 2.4). The first one counts. */
export async function readId3v2(source: ByteSource): Promise<Id3Found> {
  let at = 0;
  let tags: Tags = {};
  const counter = new PartCounter('What stands in front of the sound');
  for (;;) {
    counter.add(at);
    const head = await source.read(at, 10);
    if (head.length < 10 || ascii(head, 0, 3) !== 'ID3') return { soundStart: at, tags };
    const size = syncsafe(head, 6);
    if (Object.keys(tags).length === 0 && size <= MOST_TAG_BYTES) {
      tags = readFrames(await source.read(at + 10, size), head[3]!, head[5]!);
    }
    at += 10 + size + (head[5]! & 0x10 ? 10 : 0);
  }
}

/** Reads a tag that another format keeps in a chunk of its own; empty when it is none. */
export function readId3Chunk(bytes: Uint8Array): Tags {
  if (bytes.length < 10 || ascii(bytes, 0, 3) !== 'ID3') return {};
  return readFrames(bytes.subarray(10, 10 + syncsafe(bytes, 6)), bytes[3]!, bytes[5]!);
}

/** Where the first byte behind the ID3v2 tags lies. */
export async function skipId3v2(source: ByteSource): Promise<number> {
  return (await readId3v2(source)).soundStart;
}

/** Bytes behind the sound that are tags: ID3v1 and APE, which decoders would take for damage. */
export async function tagBytesAtEnd(source: ByteSource): Promise<{ bytes: number; tags: Tags }> {
  let bytes = 0;
  let tags: Tags = {};
  const old = await source.read(Math.max(0, source.size - 128), 128);
  if (old.length === 128 && ascii(old, 0, 3) === 'TAG') {
    bytes = 128;
    tags = readId3v1(old);
  }
  const footerAt = source.size - bytes - 32;
  if (footerAt >= 0) {
    const footer = await source.read(footerAt, 32);
    if (ascii(footer, 0, 8) === 'APETAGEX') {
      const view = viewOf(footer);
      // The stated size counts the items and this footer; a header of its own is a flag.
      const size = view.getUint32(12, true) + (view.getUint32(20, true) & 0x80000000 ? 32 : 0);
      if (size >= 32 && size <= footerAt + 32) bytes += size;
    }
  }
  return { bytes, tags };
}

function readId3v1(bytes: Uint8Array): Tags {
  const text = (at: number, length: number) => decodeText(bytes.subarray(at, at + length));
  const track = bytes[125] === 0 && bytes[126]! > 0 ? String(bytes[126]) : undefined;
  return tidyTags({
    title: text(3, 30),
    artist: text(33, 30),
    album: text(63, 30),
    year: text(93, 4),
    comment: text(97, 28),
    track,
  });
}

function readFrames(body: Uint8Array, version: number, flags: number): Tags {
  const bytes = flags & 0x80 && version < 4 ? withoutUnsync(body) : body;
  const texts = new Map<string, string>();
  const idBytes = version === 2 ? 3 : 4;
  const headBytes = version === 2 ? 6 : 10;
  const view = viewOf(bytes);
  let at = flags & 0x40 && version > 2 ? extendedHeaderBytes(bytes, version) : 0;
  while (at + headBytes <= bytes.length && bytes[at] !== 0) {
    const id = ascii(bytes, at, idBytes);
    const size =
      version === 2
        ? (bytes[at + 3]! << 16) | (bytes[at + 4]! << 8) | bytes[at + 5]!
        : version === 4
          ? syncsafe(bytes, at + 4)
          : view.getUint32(at + 4);
    const start = at + headBytes;
    if (start + size > bytes.length) break;
    const data = bytes.subarray(start, start + size);
    at = start + size;
    if (!wanted.has(id) || texts.has(id)) continue;
    const plain = version === 4 && bytes[start - 1]! & 2 ? withoutUnsync(data) : data;
    texts.set(id, id.startsWith('COM') ? comment(plain) : textOf(plain));
  }
  const found: Partial<Record<TagName, string | undefined>> = {};
  for (const [name, ids] of Object.entries(frameIds)) {
    found[name as TagName] = ids.map((id) => texts.get(id)).find((text) => text);
  }
  // A genre may be a number of an old list in parentheses with its name behind.
  found.genre = found.genre?.replace(/^\(\d+\)(?=.)/, '');
  return tidyTags(found);
}

function extendedHeaderBytes(bytes: Uint8Array, version: number): number {
  if (bytes.length < 4) return bytes.length;
  return version === 4 ? syncsafe(bytes, 0) : viewOf(bytes).getUint32(0) + 4;
}

/** Takes out the zero that was put behind every 0xff. */
function withoutUnsync(bytes: Uint8Array): Uint8Array {
  return bytes.filter((byte, i) => !(byte === 0 && bytes[i - 1] === 0xff));
}

function textOf(data: Uint8Array): string {
  return decodeAs(data[0] ?? 0, data.subarray(1));
}

/** A comment has a language and a short description in front. */
function comment(data: Uint8Array): string {
  const encoding = data[0] ?? 0;
  const body = data.subarray(4);
  const wide = encoding === 1 || encoding === 2;
  for (let i = 0; i < body.length; i += wide ? 2 : 1) {
    if (body[i] !== 0 || (wide && body[i + 1] !== 0)) continue;
    return decodeAs(encoding, body.subarray(i + (wide ? 2 : 1)));
  }
  return '';
}

function decodeAs(encoding: number, bytes: Uint8Array): string {
  if (encoding === 0) return new TextDecoder('latin1').decode(bytes).split('\0')[0]!;
  if (encoding === 3) return new TextDecoder().decode(bytes).split('\0')[0]!;
  const bigEndian = encoding === 2 || (bytes[0] === 0xfe && bytes[1] === 0xff);
  return new TextDecoder(bigEndian ? 'utf-16be' : 'utf-16le').decode(bytes).split('\0')[0]!;
}

/** An ID3v2.3 tag, which every player reads; no bytes without tags. */
export function writeId3v2(tags: Tags): Uint8Array {
  const frames = Object.entries(tags).map(([name, text]) => {
    const id = name === 'year' ? 'TYER' : frameIds[name as TagName][0]!;
    const data = new ByteWriter().u8(1);
    if (name === 'comment') data.text('eng').raw(utf16('')).u16le(0);
    data.raw(utf16(text));
    return new ByteWriter().text(id).u32be(data.length).u16be(0).raw(data.bytes()).bytes();
  });
  if (frames.length === 0) return new Uint8Array(0);
  const body = joinBytes(...frames);
  const size = [21, 14, 7, 0].map((shift) => (body.length >> shift) & 127);
  return joinBytes(
    new ByteWriter().text('ID3').u8(3).u8(0).u8(0).raw(Uint8Array.from(size)).bytes(),
    body,
  );
}

/** UTF-16 with a mark of its byte order, the one encoding of ID3v2.3 for any script. */
function utf16(text: string): Uint8Array {
  const out = new ByteWriter().u16le(0xfeff);
  for (let i = 0; i < text.length; i++) out.u16le(text.charCodeAt(i));
  return out.bytes();
}
