import { ByteWriter, viewOf } from '../bits';
import { damagedHeader, unknownCodec } from '../problems';

/** The identification header of Opus (RFC 7845, 5.1), in Ogg and in WebM alike. */
export interface OpusHead {
  channels: number;
  /** Frames at 48 kHz that the decoder needs to get going, and that are not part of the sound. */
  preSkip: number;
  /** Rate of what was encoded; Opus itself always plays at 48 kHz. */
  inputRateHz: number;
  gainDb: number;
  streamCount: number;
  coupledCount: number;
  mapping: number[];
}

/** Opus is defined at this rate; granules, pre-skip and what comes out of the decoder count in it. */
export const OPUS_RATE = 48_000;

/** @throws damaged-header, unknown-codec for layouts without an order of speakers. */
export function readOpusHead(bytes: Uint8Array, container: string, byteOffset: number): OpusHead {
  if (bytes.length < 19) throw damagedHeader('The Opus header is too short', byteOffset);
  const view = viewOf(bytes);
  const channels = bytes[9]!;
  const family = bytes[18]!;
  const head = {
    channels,
    preSkip: view.getUint16(10, true),
    inputRateHz: view.getUint32(12, true),
    gainDb: view.getInt16(16, true) / 256,
    streamCount: 1,
    coupledCount: channels - 1,
    mapping: channels === 2 ? [0, 1] : [0],
  };
  if (bytes[8]! >> 4 !== 0) throw damagedHeader('The Opus header is of a later kind', byteOffset);
  if (family > 1) throw unknownCodec(container, 'Opus without named speakers', 'stereo or 5.1');
  const most = family === 0 ? 2 : 8;
  if (channels < 1 || channels > most) {
    throw damagedHeader(`The Opus header says ${channels} channels`, byteOffset + 9);
  }
  if (family === 0) return head;
  const mapping = [...bytes.subarray(21, 21 + channels)];
  const [streamCount = 0, coupledCount = 0] = bytes.subarray(19, 21);
  const outputs = streamCount + coupledCount;
  const isWhole = mapping.length === channels && streamCount > 0 && coupledCount <= streamCount;
  if (!isWhole || mapping.some((output) => output >= outputs && output !== 255)) {
    throw damagedHeader('The Opus header contradicts itself about its channels', byteOffset + 19);
  }
  return { ...head, streamCount, coupledCount, mapping };
}

/** A header for mono or stereo. */
export function writeOpusHead(channels: number, preSkip: number, inputRateHz: number): Uint8Array {
  const out = new ByteWriter().text('OpusHead').u8(1).u8(channels);
  return out.u16le(preSkip).u32le(inputRateHz).u16le(0).u8(0).bytes();
}
