import { ByteWriter } from '@/core/formats/bits';
import { BitWriter } from './bits';
import { box, mp4 } from './mp4';

const PACKET_FRAMES = 4_096;

/** ALAC in M4A whose packets hold plain samples, which the format allows for sound it cannot shrink. */
export function alacFile(channels: Int16Array[], rateHz: number): Uint8Array {
  const count = channels.length;
  const frames = channels[0]!.length;
  const packets: Uint8Array[] = [];
  for (let at = 0; at < frames; at += PACKET_FRAMES) {
    packets.push(packet(channels.map((channel) => channel.subarray(at, at + PACKET_FRAMES))));
  }
  const cookie = new ByteWriter().u32be(PACKET_FRAMES).u8(0).u8(16).u8(40).u8(10).u8(14);
  cookie.u8(count).u16be(255).u32be(0).u32be(0).u32be(rateHz);
  return mp4({
    entry: 'alac',
    boxes: box('alac', new Uint8Array(4), cookie.bytes()),
    channels: count,
    rateHz,
    packets,
    packetFrames: PACKET_FRAMES,
    lastFrames: frames % PACKET_FRAMES || PACKET_FRAMES,
  });
}

function packet(channels: Int16Array[]): Uint8Array {
  const frames = channels[0]!.length;
  const bits = new BitWriter().put(channels.length - 1, 3).put(0, 16);
  // It states its own length, has no shifted bytes, and is not compressed.
  bits.put(0b1001, 4).put(frames, 32);
  for (let i = 0; i < frames; i++)
    for (const channel of channels) bits.put(channel[i]! & 0xffff, 16);
  return bits.put(7, 3).bytes();
}
