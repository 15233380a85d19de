import { BitWriter } from './bits';

/**
 * MPEG-1 layer II at 48 kHz, 192 kbit/s, mono (ISO/IEC 11172-3, 2.4.1.6), with sound in one of its 32
 * subbands: every frame is 1,152 frames long and 576 bytes large.
 */
export function layerTwo(frames: number, subband: number): Uint8Array {
  return Buffer.concat(Array.from({ length: frames }, () => frame(subband)));
}

/** Bits of each subband's allocation in table B.2a. */
const ALLOCATION_BITS = [...Array<number>(11).fill(4), ...Array<number>(12).fill(3), 2, 2, 2, 2];
/** Allocation 3 of the lower subbands: 15 levels in four bits. */
const ALLOCATION = 3;

function frame(subband: number): Uint8Array {
  const bits = new BitWriter().put(0xfffd, 16).put(0xa4, 8).put(0xc0, 8);
  ALLOCATION_BITS.forEach((width, sb) => bits.put(sb === subband ? ALLOCATION : 0, width));
  bits.put(2, 2); // one scale factor for the whole frame
  bits.put(9, 6);
  // 12 granules of three samples: a steady value in a subband is a tone at its lower edge.
  for (let n = 0; n < 36; n++) bits.put(n % 2 === 0 ? 13 : 12, 4);
  return bits.bytes(576);
}
