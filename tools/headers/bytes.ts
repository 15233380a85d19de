/** What the checkers of all containers share: reading fields, and writing down what is wrong. It knows no writer. */
export class Fields {
  readonly view: DataView;

  constructor(readonly bytes: Uint8Array) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }

  get size(): number {
    return this.bytes.length;
  }

  text(at: number, length: number): string {
    return Buffer.from(this.part(at, length)).toString('latin1');
  }

  part(at: number, length: number): Uint8Array {
    return this.bytes.subarray(at, at + length);
  }

  u8(at: number): number {
    return this.view.getUint8(at);
  }

  le16(at: number): number {
    return this.view.getUint16(at, true);
  }

  le32(at: number): number {
    return this.view.getUint32(at, true);
  }

  le64(at: number): bigint {
    return this.view.getBigInt64(at, true);
  }

  be16(at: number): number {
    return this.view.getUint16(at);
  }

  be24(at: number): number {
    return (this.be16(at) << 8) | this.u8(at + 2);
  }

  be32(at: number): number {
    return this.view.getUint32(at);
  }
}

/** The faults of one file. A fault in what others hang on ends the check. */
export class Faults {
  readonly list: string[] = [];

  /** `got` must be `wanted`. */
  same(what: string, got: unknown, wanted: unknown): void {
    if (String(got) !== String(wanted)) this.list.push(`${what} is ${got}, not ${wanted}`);
  }

  /** Something that must be true. */
  must(what: string, holds: boolean): void {
    if (!holds) this.list.push(what);
  }
}

/** Runs one checker; what it stumbles over is a fault, too. */
export function faultsOf(
  check: (file: Fields, faults: Faults) => void,
  bytes: Uint8Array,
): string[] {
  const faults = new Faults();
  try {
    check(new Fields(bytes), faults);
  } catch (error) {
    faults.list.push(`the checker could not go on: ${String(error)}`);
  }
  return faults.list;
}

/** A table for checksums whose highest bit comes first. */
function crcTable(bits: number, polynomial: number): number[] {
  const top = 2 ** (bits - 1);
  return Array.from({ length: 256 }, (_, byte) => {
    let crc = (byte << (bits - 8)) >>> 0;
    for (let i = 0; i < 8; i++) crc = (crc & top ? (crc << 1) ^ polynomial : crc << 1) >>> 0;
    return bits === 32 ? crc : crc & (2 ** bits - 1);
  });
}

export function msbCrc(
  bits: number,
  polynomial: number,
): (bytes: Uint8Array, crc?: number) => number {
  const table = crcTable(bits, polynomial);
  const mask = bits === 32 ? 0xffffffff : 2 ** bits - 1;
  return (bytes, start = 0) => {
    let crc = start;
    for (const byte of bytes) {
      crc = ((crc << 8) ^ table[((crc >>> (bits - 8)) ^ byte) & 255]!) & mask;
    }
    return crc >>> 0;
  };
}

/** CRC-16/ARC, lowest bit first. */
export function crc16Arc(bytes: Uint8Array): number {
  let crc = 0;
  for (const byte of bytes) {
    crc ^= byte;
    for (let i = 0; i < 8; i++) crc = crc & 1 ? (crc >>> 1) ^ 0xa001 : crc >>> 1;
  }
  return crc;
}
