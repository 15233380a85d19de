import type { ByteSource } from '../../bytes/source';
import { BijouError } from '../../errors';
import { tidyTags, type TagName, type Tags } from '../../marks';
import { ascii, decodeText, indexOfAscii, viewOf } from '../bits';
import { damagedHeader } from '../problems';
import { PartCounter } from '../parts';
import { tagBoxes } from './tagBoxes';
import { checkTables, mediaUnits, tableBoxes, type Tables } from './tables';

/** The stretch of the media timeline that a track presents, in seconds. */
interface EditWindow {
  start: number;
  /** null: to the end of the media. */
  length: number | null;
}

/** What the index says that the demultiplexer does not. */
export interface Mp4Index {
  /** null without an edit list. */
  window: EditWindow | null;
  /** Configuration of ALAC: its 24 bytes; null for other codecs. */
  alacCookie: Uint8Array | null;
  /** Name of the first sound track's sample entry: `mp4a`, `alac` … */
  entry: string;
  /** Where its packets lie; empty for files in fragments. */
  tables: Tables;
  /** Length of the media in seconds by those tables; null for files in fragments. */
  seconds: number | null;
  tags: Tags;
}

const MOST_INDEX_BYTES = 64 << 20;
/** An index of many tracks with many tags has some hundreds. */
const MOST_BOXES = 20_000;
/** More edits than this and what they list is not one sound; the first one counts. */
const MOST_EDITS = 1_000;
/** A long file in fragments has two boxes for every few seconds. */
const MOST_TOP_BOXES = 100_000;
const containers = new Set(['moov', 'trak', 'mdia', 'edts', 'minf', 'stbl', 'udta']);

interface Track {
  sound: boolean;
  scale: number;
  edits: { duration: number; mediaTime: number }[];
  description: Uint8Array;
  tables: Tables;
}

/**
 * Reads the index of an MP4 or QuickTime file (ISO/IEC 14496-12): the edit list of its first sound
 * track (8.6.6), which says what is the encoder's priming in front and its padding behind, and tags.
 * @throws damaged-header when the file has no index, or one that contradicts itself.
 */
export async function readIndex(source: ByteSource): Promise<Mp4Index> {
  const moov = await findIndex(source);
  const tracks: Track[] = [];
  let movieScale = 0;
  let isFragmented = false;
  let track: Track | null = null;
  let tags: Tags = {};
  walk(moov, 0, moov.length, (type, body) => {
    if (type === 'mvex') isFragmented = true;
    if (type === 'mvhd') movieScale = readScale(body);
    if (type === 'trak') tracks.push((track = newTrack()));
    if (type === 'meta') tags = { ...readTags(body), ...tags };
    if (!track) return;
    if (type === 'hdlr') track.sound ||= ascii(body, 8, 4) === 'soun';
    if (type === 'mdhd') track.scale = readScale(body);
    if (type === 'elst') track.edits = readEdits(body);
    if (type === 'stsd') track.description = body;
    const table = tableBoxes.find((box) => box === type);
    if (table) track.tables[table] = body;
  });
  // Tables of pictures matter too: the demultiplexer reads all tracks.
  for (const { tables } of tracks) checkTables(tables, source.size);
  const sound = tracks.find((t) => t.sound);
  const entry = sound ? ascii(sound.description, 12, 4) : '';
  return {
    window: sound ? windowOf(sound, movieScale) : null,
    alacCookie: sound && entry === 'alac' ? readAlacCookie(sound.description) : null,
    entry,
    tables: sound?.tables ?? {},
    seconds: sound ? mediaSeconds(sound, isFragmented) : null,
    tags,
  };
}

function newTrack(): Track {
  return { sound: false, scale: 0, edits: [], description: new Uint8Array(0), tables: {} };
}

function windowOf(sound: Track, movieScale: number): EditWindow | null {
  const edit = sound.edits.find((e) => e.mediaTime >= 0);
  if (!edit || sound.scale === 0) return null;
  const length = movieScale > 0 ? edit.duration / movieScale : 0;
  return { start: edit.mediaTime / sound.scale, length: length > 0 ? length : null };
}

function mediaSeconds({ tables, scale }: Track, isFragmented: boolean): number | null {
  const units = mediaUnits(tables);
  if (units > 0 && scale > 0) return units / scale;
  if (isFragmented) return null;
  throw damagedHeader('The MP4 index does not say where its sound lies');
}

async function findIndex(source: ByteSource): Promise<Uint8Array> {
  const counter = new PartCounter('The MP4 file', MOST_TOP_BOXES);
  for (let at = 0; at + 8 <= source.size;) {
    counter.add(at);
    const head = await source.read(at, 16);
    if (head.length < 8) break;
    const view = viewOf(head);
    let size = view.getUint32(0);
    if (size === 1 && head.length === 16) size = Number(view.getBigUint64(8));
    if (size === 0) size = source.size - at;
    if (size < 8) break;
    if (ascii(head, 4, 4) === 'moov') {
      if (size > MOST_INDEX_BYTES) throw damagedHeader('The MP4 index is impossibly large', at);
      const whole = await source.read(at, size);
      if (whole.length < size) throw cutOff(at);
      return whole;
    }
    at += size;
  }
  throw cutOff(source.size);
}

function cutOff(byteOffset: number): BijouError {
  return new BijouError(
    'damaged-header',
    'The file is cut off: its index is missing, and without it nothing can be decoded.',
    'Get the whole file again; MP4 files often keep their index at the very end.',
    { byteOffset },
  );
}

function walk(
  bytes: Uint8Array,
  start: number,
  end: number,
  visit: (type: string, body: Uint8Array) => void,
  counter = new PartCounter('The MP4 index', MOST_BOXES),
): void {
  for (let at = start; at + 8 <= end;) {
    counter.add(at);
    const size = viewOf(bytes).getUint32(at);
    const type = ascii(bytes, at + 4, 4);
    const stop = Math.min(end, at + size);
    if (size < 8) return;
    visit(type, bytes.subarray(at + 8, stop));
    if (containers.has(type)) walk(bytes, at + 8, stop, visit, counter);
    at = stop;
  }
}

function readScale(body: Uint8Array): number {
  const at = body[0] === 1 ? 20 : 12;
  return body.length >= at + 4 ? viewOf(body).getUint32(at) : 0;
}

function readEdits(body: Uint8Array): Track['edits'] {
  if (body.length < 8) return [];
  const view = viewOf(body);
  const long = body[0] === 1;
  const entryBytes = long ? 20 : 12;
  const count = Math.min(MOST_EDITS, view.getUint32(4), Math.floor((body.length - 8) / entryBytes));
  return Array.from({ length: count }, (_, i) => {
    const at = 8 + i * entryBytes;
    return long
      ? { duration: Number(view.getBigUint64(at)), mediaTime: Number(view.getBigInt64(at + 8)) }
      : { duration: view.getUint32(at), mediaTime: view.getInt32(at + 4) };
  });
}

const COOKIE_BYTES = 24;
/** Longest packet that ALAC's reference encoder writes, several times over. */
const MOST_PACKET_FRAMES = 65_536;

/** The inner `alac` box of the sample entry: version, then the configuration. */
function readAlacCookie(description: Uint8Array): Uint8Array {
  const at = indexOfAscii(description, 'alac', 16) + 8;
  const cookie = description.slice(at, at + COOKIE_BYTES);
  if (at < 16 || cookie.length < COOKIE_BYTES) throw damagedHeader('The ALAC header is too short');
  const view = viewOf(cookie);
  const [frames, bits, channels] = [view.getUint32(0), cookie[5]!, cookie[9]!];
  const isLegal =
    frames > 0 &&
    frames <= MOST_PACKET_FRAMES &&
    [16, 20, 24, 32].includes(bits) &&
    channels >= 1 &&
    channels <= 8;
  if (!isLegal) {
    throw damagedHeader(`The ALAC header says ${channels} channels of ${bits} bits`);
  }
  return cookie;
}

/** The item list of a `meta` box: each item holds a `data` box with type, locale and value. */
function readTags(meta: Uint8Array): Tags {
  // In MP4 the box has a version in front of its children, in QuickTime it has not.
  const from = ascii(meta, 4, 4) === 'hdlr' ? 0 : 4;
  const items = new Map<string, Uint8Array>();
  walk(meta, from, meta.length, (type, body) => {
    if (type === 'ilst') walk(body, 0, body.length, (name, item) => items.set(name, item));
  });
  const found: Partial<Record<TagName, string>> = {};
  for (const [name, box] of Object.entries(tagBoxes)) {
    const item = items.get(box);
    if (!item || item.length < 16 || ascii(item, 4, 4) !== 'data') continue;
    const value = item.subarray(16);
    found[name as TagName] = name === 'track' ? trackNumber(value) : decodeText(value);
  }
  return tidyTags(found);
}

/** The number of a track, and of how many it is one, where that is stated. */
function trackNumber(value: Uint8Array): string {
  if (value.length < 4) return '';
  const view = viewOf(value);
  const [number, of] = [view.getUint16(2), value.length >= 6 ? view.getUint16(4) : 0];
  if (number === 0) return '';
  return of === 0 ? String(number) : `${number}/${of}`;
}
