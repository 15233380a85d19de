/** Longest frame and longest packet that Opus allows, in bytes and in frames at 48 kHz. */
const MOST_FRAME_BYTES = 1_275;
const MOST_PACKET_FRAMES = 5_760;

/** Frames at 48 kHz of one Opus frame by the configuration in the packet's first byte (RFC 6716, 3.1). */
function frameLength(config: number): number {
  if (config < 12) return [480, 960, 1_920, 2_880][config % 4]!;
  if (config < 16) return [480, 960][config % 2]!;
  return [120, 240, 480, 960][config % 4]!;
}

/**
 * Length of a packet in frames at 48 kHz, or null when it breaks the rules that every packet must
 * keep (RFC 6716, 3.4). With several streams inside only its first is looked at, without its sizes.
 */
export function packetFrames(packet: Uint8Array, streamCount: number): number | null {
  if (packet.length < 1) return null;
  const length = frameLength(packet[0]! >> 3);
  const code = packet[0]! & 3;
  const count = code === 0 ? 1 : code < 3 ? 2 : (packet[1] ?? 0) & 63;
  const total = length * count;
  if (count === 0 || total > MOST_PACKET_FRAMES) return null;
  return streamCount > 1 || isWellFormed(packet, code, count) ? total : null;
}

function isWellFormed(packet: Uint8Array, code: number, count: number): boolean {
  if (code === 0) return packet.length - 1 <= MOST_FRAME_BYTES;
  if (code === 1) return packet.length % 2 === 1 && (packet.length - 1) / 2 <= MOST_FRAME_BYTES;
  if (code === 2) {
    const size = frameSize(packet, 1);
    return size !== null && size.end + size.bytes <= packet.length && fits(packet, size);
  }
  let at = 2;
  let padding = 0;
  if (packet[1]! & 64) {
    for (;;) {
      const byte = packet[at++];
      if (byte === undefined) return false;
      padding += byte === 255 ? 254 : byte;
      if (byte < 255) break;
    }
  }
  let left = packet.length - padding;
  if (!(packet[1]! & 128)) {
    left -= at;
    return left >= 0 && left % count === 0 && left / count <= MOST_FRAME_BYTES;
  }
  let used = 0;
  for (let i = 1; i < count; i++) {
    const size = frameSize(packet, at);
    if (!size) return false;
    at = size.end;
    used += size.bytes;
  }
  left -= at + used;
  return left >= 0 && left <= MOST_FRAME_BYTES;
}

function fits(packet: Uint8Array, size: { bytes: number; end: number }): boolean {
  return packet.length - size.end - size.bytes <= MOST_FRAME_BYTES;
}

/** A frame's size in one or two bytes (RFC 6716, 3.2.1). */
function frameSize(packet: Uint8Array, at: number): { bytes: number; end: number } | null {
  const first = packet[at];
  if (first === undefined) return null;
  if (first < 252) return { bytes: first, end: at + 1 };
  const second = packet[at + 1];
  return second === undefined ? null : { bytes: second * 4 + first, end: at + 2 };
}
