import type { ByteSource } from '../../bytes/source';
import { BijouError } from '../../errors';
import { ascii, viewOf } from '../bits';
import { damagedHeader } from '../problems';
import { checkTables, tableBoxes, type Tables } from './tables';

/** The stretch of the media timeline that a track presents, in frames at the track's time scale. */
export interface EditWindow {
  start: number;
  /** null: to the end of the media. */
  length: number | null;
}

const MOST_INDEX_BYTES = 64 << 20;
const containers = new Set(['moov', 'trak', 'mdia', 'edts', 'minf', 'stbl']);

/**
 * Reads the edit list of the first sound track (ISO/IEC 14496-12, 8.6.6): which part of the media is
 * the sound, and what is the encoder's priming in front and its padding behind. null without a list.
 * @throws damaged-header when the file has no index, or one that contradicts itself.
 */
export async function readEditWindow(source: ByteSource): Promise<EditWindow | null> {
  const moov = await findIndex(source);
  const tracks: Track[] = [];
  let movieScale = 0;
  let track: Track | null = null;
  walk(moov, 0, moov.length, (type, body) => {
    if (type === 'mvhd') movieScale = readScale(body);
    if (type === 'trak') tracks.push((track = { sound: false, scale: 0, edits: [], tables: {} }));
    if (!track) return;
    if (type === 'hdlr') track.sound = ascii(body, 8, 4) === 'soun';
    if (type === 'mdhd') track.scale = readScale(body);
    if (type === 'elst') track.edits = readEdits(body);
    const table = tableBoxes.find((box) => box === type);
    if (table) track.tables[table] = body;
  });
  // Tables of pictures matter too: the demultiplexer reads all tracks.
  for (const { tables } of tracks) checkTables(tables);
  const sound = tracks.find((t) => t.sound);
  const edit = sound?.edits.find((e) => e.mediaTime >= 0);
  if (!sound || !edit) return null;
  const length = movieScale > 0 ? Math.round((edit.duration / movieScale) * sound.scale) : 0;
  return { start: edit.mediaTime, length: length > 0 ? length : null };
}

interface Track {
  sound: boolean;
  scale: number;
  edits: { duration: number; mediaTime: number }[];
  tables: Tables;
}

async function findIndex(source: ByteSource): Promise<Uint8Array> {
  for (let at = 0; at + 8 <= source.size;) {
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
): void {
  for (let at = start; at + 8 <= end;) {
    const size = viewOf(bytes).getUint32(at);
    const type = ascii(bytes, at + 4, 4);
    const stop = Math.min(end, at + size);
    if (size < 8) return;
    visit(type, bytes.subarray(at + 8, stop));
    if (containers.has(type)) walk(bytes, at + 8, stop, visit);
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
  const count = Math.min(view.getUint32(4), Math.floor((body.length - 8) / entryBytes));
  return Array.from({ length: count }, (_, i) => {
    const at = 8 + i * entryBytes;
    return long
      ? { duration: Number(view.getBigUint64(at)), mediaTime: Number(view.getBigInt64(at + 8)) }
      : { duration: view.getUint32(at), mediaTime: view.getInt32(at + 4) };
  });
}
