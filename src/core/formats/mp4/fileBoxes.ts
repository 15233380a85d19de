import type { Tags } from '../../marks';
import { PACKET_FRAMES } from '../aac/decode';
import { PRIMING_FRAMES } from '../aac/encode';
import { ByteWriter, encodeText, joinBytes } from '../bits';
import { tagBoxes } from './tagBoxes';

/**
 * The boxes of an M4A file (ISO/IEC 14496-12 and -14) with one track of AAC. Movie and track count in
 * frames of the sound, so that every time in the file is exact.
 */

/** Packets that stand behind each other as one chunk: about half a second. */
const PACKETS_PER_CHUNK = 32;

/** Everything that the index of a finished file says. */
export interface M4aFacts {
  rateHz: number;
  channelCount: number;
  /** Length of the sound, without priming and padding. */
  frames: number;
  /** Bytes of each packet. */
  packetBytes: readonly number[];
  /** AudioSpecificConfig (ISO/IEC 14496-3, 1.6.2.1). */
  config: Uint8Array;
  tags: Tags;
}

/** Packets that priming and `frames` frames of sound take. */
export function packetCount(frames: number): number {
  return Math.ceil((PRIMING_FRAMES + frames) / PACKET_FRAMES);
}

function box(type: string, ...parts: Uint8Array[]): Uint8Array {
  const body = joinBytes(...parts);
  return new ByteWriter()
    .u32be(8 + body.length)
    .raw(latin(type))
    .raw(body)
    .bytes();
}

/** A box with a version and flags in front. */
function fullBox(type: string, flags: number, ...parts: Uint8Array[]): Uint8Array {
  return box(type, new ByteWriter().u32be(flags).bytes(), ...parts);
}

const latin = (text: string) => Uint8Array.from(text, (letter) => letter.charCodeAt(0));
const words = (...values: number[]) =>
  values.reduce((out, value) => out.u32be(value), new ByteWriter()).bytes();
const zeros = (bytes: number) => new Uint8Array(bytes);

export function fileType(): Uint8Array {
  return box('ftyp', latin('M4A '), words(0), latin('M4A '), latin('mp42'), latin('isom'));
}

/** The head of the box that holds the packets. */
export function dataHead(bytes: number): Uint8Array {
  return new ByteWriter()
    .u32be(8 + bytes)
    .text('mdat')
    .bytes();
}

/** A box that players pass over. `bytes` counts its head of 8. */
export function freeBox(bytes: number): Uint8Array {
  return box('free', zeros(bytes - 8));
}

/** The index, for packets that lie behind each other from `dataAt` on. Dates are left at 0. */
export function movie(facts: M4aFacts, dataAt: number): Uint8Array {
  const { rateHz, frames } = facts;
  const header = fullBox(
    'mvhd',
    0,
    words(0, 0, rateHz, frames, ONE),
    new ByteWriter().u16be(FULL_VOLUME).bytes(),
    zeros(10),
    identity,
    zeros(24),
    words(2), // number of the next track
  );
  return box('moov', header, track(facts, dataAt), ...metadata(facts.tags));
}

/** 1 in 16.16, and in 8.8. */
const ONE = 0x10000;
const FULL_VOLUME = 0x100;
/** The matrix that leaves pictures as they are; sound has one too. */
const identity = words(ONE, 0, 0, 0, ONE, 0, 0, 0, 0x40000000);

function track(facts: M4aFacts, dataAt: number): Uint8Array {
  const { rateHz, frames } = facts;
  const header = fullBox(
    'tkhd',
    7, // enabled, in the movie, in previews
    words(0, 0, 1, 0, frames, 0, 0, 0),
    new ByteWriter().u16be(FULL_VOLUME).u16be(0).bytes(),
    identity,
    words(0, 0),
  );
  // What is presented begins behind the priming and ends before the padding.
  const edits = box('edts', fullBox('elst', 0, words(1, frames, PRIMING_FRAMES, ONE)));
  const media = box(
    'mdia',
    fullBox(
      'mdhd',
      0,
      words(0, 0, rateHz, PRIMING_FRAMES + frames),
      new ByteWriter().u16be(UNDETERMINED).u16be(0).bytes(),
    ),
    fullBox('hdlr', 0, words(0), latin('soun'), zeros(12), latin('Sound\0')),
    box(
      'minf',
      fullBox('smhd', 0, zeros(4)),
      box('dinf', fullBox('dref', 0, words(1), fullBox('url ', 1))),
      box('stbl', description(facts), times(facts), ...places(facts, dataAt)),
    ),
  );
  return box('trak', header, edits, media);
}

/** The language code "und". */
const UNDETERMINED = 0x55c4;

function description({ rateHz, channelCount, config, ...facts }: M4aFacts): Uint8Array {
  const total = facts.packetBytes.reduce((sum, bytes) => sum + bytes, 0);
  const largest = facts.packetBytes.reduce((most, bytes) => Math.max(most, bytes), 0);
  const kept = facts.packetBytes.length * PACKET_FRAMES;
  const decoder = new ByteWriter()
    .u8(0x40) // MPEG-4 audio
    .u8(0x15) // an audio stream
    .u24be(largest)
    .u32be(Math.round((largest * 8 * rateHz) / PACKET_FRAMES))
    .u32be(Math.round((total * 8 * rateHz) / kept))
    .raw(descriptor(5, config));
  const stream = descriptor(
    3,
    new ByteWriter().u16be(0).u8(0).bytes(),
    descriptor(4, decoder.bytes()),
    descriptor(6, Uint8Array.of(2)),
  );
  const entry = new ByteWriter().raw(zeros(6)).u16be(1).raw(zeros(8));
  entry.u16be(channelCount).u16be(16).u32be(0);
  // The field holds whole numbers up to 65,535; higher rates stand in the configuration alone.
  entry.u16be(rateHz < ONE ? rateHz : 0).u16be(0);
  return fullBox('stsd', 0, words(1), box('mp4a', entry.bytes(), fullBox('esds', 0, stream)));
}

/** A descriptor of ISO/IEC 14496-1, its length in four bytes of seven bits. */
function descriptor(tag: number, ...parts: Uint8Array[]): Uint8Array {
  const body = joinBytes(...parts);
  const out = new ByteWriter().u8(tag);
  for (const shift of [21, 14, 7, 0]) {
    out.u8(((body.length >> shift) & 127) | (shift > 0 ? 128 : 0));
  }
  return out.raw(body).bytes();
}

/** How long each packet lasts: the last one only as long as there is sound. */
function times({ packetBytes, frames }: M4aFacts): Uint8Array {
  const packets = packetBytes.length;
  const last = PRIMING_FRAMES + frames - (packets - 1) * PACKET_FRAMES;
  return last === PACKET_FRAMES
    ? fullBox('stts', 0, words(1, packets, PACKET_FRAMES))
    : fullBox('stts', 0, words(2, packets - 1, PACKET_FRAMES, 1, last));
}

/** How packets are grouped in chunks, their sizes, and where each chunk begins. */
function places({ packetBytes }: M4aFacts, dataAt: number): Uint8Array[] {
  const packets = packetBytes.length;
  const chunks = Math.ceil(packets / PACKETS_PER_CHUNK);
  const rest = packets - (chunks - 1) * PACKETS_PER_CHUNK;
  const runs: number[] = [];
  if (chunks > 1) runs.push(1, PACKETS_PER_CHUNK, 1);
  if (chunks === 1 || rest < PACKETS_PER_CHUNK) runs.push(chunks, rest, 1);
  const starts: number[] = [];
  let at = dataAt;
  packetBytes.forEach((bytes, i) => {
    if (i % PACKETS_PER_CHUNK === 0) starts.push(at);
    at += bytes;
  });
  return [
    fullBox('stsc', 0, words(runs.length / 3, ...runs)),
    fullBox('stsz', 0, words(0, packets), wordList(packetBytes)),
    fullBox('stco', 0, words(chunks), wordList(starts)),
  ];
}

function wordList(values: readonly number[]): Uint8Array {
  const out = new ByteWriter();
  for (const value of values) out.u32be(value);
  return out.bytes();
}

/** Types of a value in the item list: bytes of a meaning of their own, or UTF-8. */
const BYTES = 0;
const UTF_8 = 1;

/** Tags as players read them; nothing without any. */
function metadata({ track, ...texts }: Tags): Uint8Array[] {
  const item = (name: keyof typeof tagBoxes, type: number, value: Uint8Array) =>
    box(tagBoxes[name], box('data', words(type, 0), value));
  const items = Object.entries(texts).map(([name, text]) =>
    item(name as keyof typeof texts, UTF_8, encodeText(text)),
  );
  const place = trackPlace(track);
  if (place) {
    const [number, of] = place;
    const value = new ByteWriter().u16be(0).u16be(number).u16be(of).u16be(0).bytes();
    items.push(item('track', BYTES, value));
  }
  if (items.length === 0) return [];
  const handler = fullBox('hdlr', 0, words(0), latin('mdirappl'), zeros(9));
  return [box('udta', fullBox('meta', 0, handler, box('ilst', ...items)))];
}

/** `3` or `3/12`; null for what the format's two numbers cannot hold. */
export function trackPlace(text: string | undefined): [number: number, of: number] | null {
  const found = /^\s*(\d{1,5})(?:\s*\/\s*(\d{1,5}))?\s*$/.exec(text ?? '');
  const [number, of] = [Number(found?.[1] ?? 0), Number(found?.[2] ?? 0)];
  return number >= 1 && number <= 0xffff && of <= 0xffff ? [number, of] : null;
}
