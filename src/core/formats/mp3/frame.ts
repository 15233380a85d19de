/** MPEG audio frame headers, layers II and III (ISO/IEC 11172-3 and 13818-3, and the 2.5 extension). */
export interface FrameHeader {
  layer: 2 | 3;
  /** Sync to sync, in bytes. */
  bytes: number;
  rateHz: number;
  channels: 1 | 2;
  /** Frames of sound (samples per channel) in one MPEG frame. */
  samples: 1152 | 576;
  kbps: number;
  /** Bytes of side information behind the header; layer III only. */
  sideInfo: number;
  /** Whether a 16-bit CRC follows the header. */
  protectedByCrc: boolean;
}

const RATES = [44_100, 48_000, 32_000];
/** Legal bit rates by version and layer; index 0 ("free") and 15 are not used. */
export const KBPS_1 = [32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320] as const;
export const KBPS_2 = [8, 16, 24, 32, 40, 48, 56, 64, 80, 96, 112, 128, 144, 160] as const;
const KBPS_1_LAYER_2 = [32, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320, 384];

/** Reads the four header bytes at `at`; null where no frame of layer II or III can begin. */
export function readFrameHeader(bytes: Uint8Array, at = 0): FrameHeader | null {
  const b1 = bytes[at + 1] ?? 0;
  const b2 = bytes[at + 2] ?? 0;
  const b3 = bytes[at + 3] ?? 0;
  if (bytes[at] !== 0xff || (b1 & 0xe0) !== 0xe0) return null;
  // Version bits: 3 is MPEG-1, 2 is MPEG-2, 0 is MPEG-2.5. Layer bits: 1 is layer III, 2 is layer II.
  const version = (b1 >> 3) & 3;
  const layerBits = (b1 >> 1) & 3;
  if (version === 1 || (layerBits !== 1 && layerBits !== 2)) return null;
  const layer = layerBits === 1 ? 3 : 2;
  const first = layer === 3 ? KBPS_1 : KBPS_1_LAYER_2;
  const kbps = (version === 3 ? first : KBPS_2)[(b2 >> 4) - 1];
  const base = RATES[(b2 >> 2) & 3];
  if (!kbps || !base || (b3 & 3) === 2) return null;
  const rateHz = base / (version === 3 ? 1 : version === 2 ? 2 : 4);
  const samples = version === 3 || layer === 2 ? 1152 : 576;
  const channels = b3 >> 6 === 3 ? 1 : 2;
  return {
    layer,
    bytes: Math.floor(((samples / 8) * kbps * 1000) / rateHz) + ((b2 >> 1) & 1),
    rateHz,
    channels,
    samples,
    kbps,
    sideInfo: version === 3 ? (channels === 1 ? 17 : 32) : channels === 1 ? 9 : 17,
    protectedByCrc: (b1 & 1) === 0,
  };
}

/** Cuts a byte stream that comes in pieces into whole MPEG frames, finding the sync again after damage. */
export class FrameSplitter {
  private rest = new Uint8Array(0);
  skippedBytes = 0;

  constructor(private readonly layer: 2 | 3 = 3) {}

  private header(bytes: Uint8Array, at = 0): FrameHeader | null {
    const header = readFrameHeader(bytes, at);
    return header?.layer === this.layer ? header : null;
  }

  /** All whole frames that `piece` completes. They are copies. */
  push(piece: Uint8Array): Uint8Array[] {
    const joined = new Uint8Array(this.rest.length + piece.length);
    joined.set(this.rest);
    joined.set(piece, this.rest.length);
    const frames: Uint8Array[] = [];
    let at = 0;
    while (at + 4 <= joined.length) {
      const header = this.header(joined, at);
      if (!header) {
        at++;
        this.skippedBytes++;
        continue;
      }
      const end = at + header.bytes;
      if (end > joined.length) break;
      frames.push(joined.slice(at, end));
      at = end;
    }
    this.rest = joined.slice(at);
    return frames;
  }

  /** Bytes of a frame that has begun and not ended. */
  get openBytes(): number {
    return this.header(this.rest) ? this.rest.length : 0;
  }
}
