/** The checksums of FLAC's frames (RFC 9639, 9.1.8 and 9.3). */

/** Polynomial x⁸ + x² + x + 1. */
export function crc8(bytes: Uint8Array): number {
  let crc = 0;
  for (const byte of bytes) {
    crc ^= byte;
    for (let bit = 0; bit < 8; bit++) crc = crc & 0x80 ? ((crc << 1) ^ 0x07) & 0xff : crc << 1;
  }
  return crc;
}

const crc16Table = Uint16Array.from({ length: 256 }, (_, byte) => {
  let crc = byte << 8;
  for (let bit = 0; bit < 8; bit++) crc = crc & 0x8000 ? (crc << 1) ^ 0x8005 : crc << 1;
  return crc;
});

/** Polynomial x¹⁶ + x¹⁵ + x² + 1. */
export function nextCrc16(crc: number, byte: number): number {
  return ((crc << 8) ^ crc16Table[(crc >> 8) ^ byte]!) & 0xffff;
}

export function crc16(bytes: Uint8Array): number {
  let crc = 0;
  for (const byte of bytes) crc = nextCrc16(crc, byte);
  return crc;
}
