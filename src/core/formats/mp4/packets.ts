import type { InputAudioTrack } from 'mediabunny';
import type { ByteSource } from '../../bytes/source';
import { viewOf } from '../bits';
import { truncated } from '../problems';
import type { Warning } from '../types';
import type { Tables } from './tables';

/** Bytes that are read at a time where packets lie behind each other. */
const AHEAD_BYTES = 1 << 18;

/**
 * The packets of a sound track until the end, or until bytes are missing, which is a warning. Where
 * the index has tables they are followed here, each packet at the same small cost however the file
 * groups them; files in fragments are left to the demultiplexer.
 */
export async function* packetsOf(
  source: ByteSource,
  track: InputAudioTrack,
  tables: Tables,
  warnings: Warning[],
): AsyncGenerator<Uint8Array> {
  let count = 0;
  try {
    for await (const packet of packetsIn(tables) > 0
      ? placedPackets(source, tables)
      : fragmentPackets(track)) {
      count++;
      yield packet;
    }
  } catch (error) {
    if (!(error instanceof Missing) && packetsIn(tables) > 0) throw error;
    warnings.push(truncated(`only the first ${count} packets of its sound are there`));
  }
}

class Missing extends Error {}

/** How many packets the tables place beyond the end of a file. */
export function packetsBeyond(tables: Tables, fileBytes: number): number {
  let beyond = 0;
  for (const { at, bytes } of places(tables)) if (at + bytes > fileBytes) beyond++;
  return beyond;
}

/** The size of every packet that the tables list, in bytes; none for files in fragments. */
export function* packetSizes(tables: Tables): Generator<number> {
  for (const { bytes } of places(tables)) yield bytes;
}

/** Packets that the tables list; 0 for files in fragments. */
export function packetsIn({ stsz }: Tables): number {
  return stsz && stsz.length >= 12 ? viewOf(stsz).getUint32(8) : 0;
}

async function* fragmentPackets(track: InputAudioTrack): AsyncGenerator<Uint8Array> {
  const { EncodedPacketSink } = await import('mediabunny');
  for await (const packet of new EncodedPacketSink(track).packets()) yield packet.data;
}

async function* placedPackets(source: ByteSource, tables: Tables): AsyncGenerator<Uint8Array> {
  let ahead: Uint8Array = new Uint8Array(0);
  let aheadAt = 0;
  for (const { at, bytes } of places(tables)) {
    if (at < aheadAt || at + bytes > aheadAt + ahead.length) {
      ahead = await source.read(at, Math.max(bytes, AHEAD_BYTES));
      aheadAt = at;
    }
    if (ahead.length < bytes) throw new Missing();
    yield ahead.slice(at - aheadAt, at - aheadAt + bytes);
  }
}

/** Where each packet lies, from sizes, runs of chunks, and places of chunks, which were checked before. */
function* places({ stsz, stsc, stco, co64 }: Tables): Generator<{ at: number; bytes: number }> {
  if (!stsz || !stsc || !(stco ?? co64)) return;
  const sizes = viewOf(stsz);
  const runs = viewOf(stsc);
  const chunks = viewOf((stco ?? co64)!);
  const common = sizes.getUint32(4);
  const packets = sizes.getUint32(8);
  const chunkCount = chunks.getUint32(4);
  let packet = 0;
  let run = 0;
  for (let chunk = 1; chunk <= chunkCount && packet < packets; chunk++) {
    const isNextRun = run + 1 < runs.getUint32(4) && runs.getUint32(8 + (run + 1) * 12) === chunk;
    if (isNextRun) run++;
    let at = stco
      ? chunks.getUint32(8 + (chunk - 1) * 4)
      : Number(chunks.getBigUint64(8 + (chunk - 1) * 8));
    for (let n = runs.getUint32(12 + run * 12); n > 0 && packet < packets; n--, packet++) {
      const bytes = common || sizes.getUint32(12 + packet * 4);
      yield { at, bytes };
      at += bytes;
    }
  }
}
