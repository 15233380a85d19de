import { BufferSource, EncodedPacketSink, Input, MP4 } from 'mediabunny';
import { ByteWriter } from '@/core/formats/bits';
import { MemorySink } from '@/core/bytes/source';
import { writeSound } from '@/core/formats/write';
import { pcmFromChannels } from '@/core/pcm/pcm';
import { box, mp4 } from './mp4';

/** AAC-LC packets of a sound, as our encoder makes them, with their configuration. */
export async function aacPackets(channels: Float32Array[], rateHz: number) {
  const sink = new MemorySink();
  await writeSound(pcmFromChannels(channels, rateHz), 'm4a', { kbps: 64 }, sink);
  const input = new Input({ source: new BufferSource(sink.bytes()), formats: [MP4] });
  const track = (await input.getPrimaryAudioTrack())!;
  const config = (await track.getDecoderConfig())!;
  const packets: Uint8Array[] = [];
  for await (const packet of new EncodedPacketSink(track).packets()) packets.push(packet.data);
  return { packets, config: new Uint8Array(config.description as Uint8Array) };
}

const RATES = [96_000, 88_200, 64_000, 48_000, 44_100, 32_000, 24_000, 22_050, 16_000, 12_000];

/** The same packets as a bare stream. */
export function adtsFile(packets: Uint8Array[], rateHz: number, channels: number): Uint8Array {
  return Buffer.concat(
    packets.flatMap((packet) => {
      const length = packet.length + 7;
      const head = new ByteWriter().u16be(0xfff1);
      head.u8((1 << 6) | (RATES.indexOf(rateHz) << 2) | (channels >> 2));
      head.u8(((channels & 3) << 6) | (length >> 11)).u8((length >> 3) & 0xff);
      head.u8(((length & 7) << 5) | 0x1f).u8(0xfc);
      return [head.bytes(), packet];
    }),
  );
}

/** The same packets in a file that says they are HE-AAC, whose output has twice the core's rate. */
export function heAacFile(packets: Uint8Array[], coreRateHz: number, channels: number): Uint8Array {
  const core = RATES.indexOf(coreRateHz);
  const whole = RATES.indexOf(coreRateHz * 2);
  // Type 5, the core's rate and channels, the whole rate, then the core's own type 2.
  const bits = (5 << 19) | (core << 15) | (channels << 11) | (whole << 7) | (2 << 2);
  const config = new ByteWriter().u24be(bits).bytes();
  const specific = new ByteWriter().u8(5).u8(config.length).raw(config).bytes();
  const decoder = new ByteWriter()
    .u8(4)
    .u8(13 + specific.length)
    .u8(0x40)
    .u8(0x15)
    .u24be(0);
  decoder.u32be(64_000).u32be(64_000).raw(specific);
  const descriptor = new ByteWriter()
    .u8(3)
    .u8(3 + decoder.length + 3)
    .u16be(1)
    .u8(0);
  descriptor.raw(decoder.bytes()).u8(6).u8(1).u8(2);
  return mp4({
    entry: 'mp4a',
    boxes: box('esds', new Uint8Array(4), descriptor.bytes()),
    channels,
    rateHz: coreRateHz * 2,
    packets,
    packetFrames: 2_048,
  });
}
