import { Analyser, type Measures } from '@/core/measure/analyser';

interface Shape {
  rateHz?: number;
  bitDepth?: number | null;
  blockFrames?: number;
  speakerMask?: number;
}

/** All measures of a sound that comes in blocks. */
export function measure(channels: Float32Array[], shape: Shape = {}): Measures {
  const { rateHz = 8_000, bitDepth = 24, blockFrames = 1_000, speakerMask } = shape;
  const meter = new Analyser({ rateHz, channelCount: channels.length, bitDepth, speakerMask });
  for (let at = 0; at < channels[0]!.length; at += blockFrames) {
    meter.push(channels.map((channel) => channel.subarray(at, at + blockFrames)));
  }
  expect(meter.frames).toBe(channels[0]!.length);
  return meter.result();
}
