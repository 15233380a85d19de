import { ByteWriter, encodeText, joinBytes } from '@/core/formats/bits';

/** A small MP4 file with one sound track, for codecs that nobody here encodes. */
export interface Mp4Track {
  /** Sample entry: its name and the boxes inside. */
  entry: string;
  boxes: Uint8Array;
  channels: number;
  rateHz: number;
  packets: Uint8Array[];
  packetFrames: number;
  /** Length of the last packet. */
  lastFrames?: number;
  /** Frames of media in front of the sound, and the length of the sound. */
  edit?: { start: number; frames: number };
  brand?: string;
}

export function box(name: string, ...parts: Uint8Array[]): Uint8Array {
  const body = joinBytes(...parts);
  return joinBytes(new ByteWriter().u32be(body.length + 8).bytes(), encodeText(name), body);
}

const u32 = (...values: number[]) =>
  values.reduce((out, value) => out.u32be(value >>> 0), new ByteWriter()).bytes();

export function mp4(track: Mp4Track): Uint8Array {
  const { packets, packetFrames, lastFrames = packetFrames, rateHz } = track;
  const frames = (packets.length - 1) * packetFrames + lastFrames;
  const ftyp = box('ftyp', encodeText(track.brand ?? 'M4A '), u32(0));
  const index = (offset: number) => moov(track, frames, lastFrames, offset, rateHz);
  const offset = ftyp.length + index(0).length + 8;
  return joinBytes(ftyp, index(offset), box('mdat', ...packets));
}

function moov(
  { entry, boxes, channels, packets, packetFrames, edit }: Mp4Track,
  frames: number,
  lastFrames: number,
  offset: number,
  rateHz: number,
): Uint8Array {
  const description = new ByteWriter().u32be(0).u16be(0).u16be(1).u32be(0).u32be(0);
  description
    .u16be(channels)
    .u16be(16)
    .u32be(0)
    .u16be(rateHz & 0xffff)
    .u16be(0)
    .raw(boxes);
  const stsd = box('stsd', u32(0, 1), box(entry, description.bytes()));
  const stts = box('stts', u32(0, 2, packets.length - 1, packetFrames, 1, lastFrames));
  const sizes = packets.map((packet) => packet.length);
  const stbl = box(
    'stbl',
    stsd,
    stts,
    box('stsc', u32(0, 1, 1, packets.length, 1)),
    box('stsz', u32(0, 0, packets.length, ...sizes)),
    box('stco', u32(0, 1, offset)),
  );
  const mdia = box(
    'mdia',
    box('mdhd', u32(0, 0, 0, rateHz, frames, 0x55c40000)),
    box('hdlr', u32(0, 0), encodeText('soun'), u32(0, 0, 0), new Uint8Array(1)),
    box('minf', box('smhd', u32(0, 0)), stbl),
  );
  const matrix = u32(0x10000, 0, 0, 0, 0x10000, 0, 0, 0, 0x40000000);
  const tkhd = box('tkhd', u32(7, 0, 0, 1, 0, frames, 0, 0, 0, 0), matrix, u32(0, 0));
  const edts = edit ? [box('edts', box('elst', u32(0, 1, edit.frames, edit.start, 0x10000)))] : [];
  const mvhd = box(
    'mvhd',
    u32(0, 0, 0, rateHz, frames, 0x10000, 0x01000000, 0, 0),
    matrix,
    u32(0, 0, 0, 0, 0, 0, 2),
  );
  return box('moov', mvhd, box('trak', tkhd, ...edts, mdia));
}
