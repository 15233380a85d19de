import * as yup from 'yup';
import { blockFrames, type PcmStream } from '../../pcm/pcm';
import { leadIn, leadOut } from '../around';
import { Quantiser } from '../pcm/quantise';
import { noSound } from '../problems';
import type { Legal } from '../types';
import { OPUS_RATE } from './head';

/** What a decoder must hear before a place to sound right there: 80 ms (RFC 7845, 4.6). */
const LEAD_FRAMES = 3_840;

/** Bit rate in kbit/s for all channels together. */
export interface OpusSettings {
  kbps: number;
}

/** What every container that Bijou writes Opus into has in common. */
export const opusKind = {
  codec: 'opus',
  legal: { rates: [OPUS_RATE], channels: [1, 2], depths: null } satisfies Legal,
  range: '6 to 256 kbit/s',
  reach: LEAD_FRAMES,
  dials: [
    {
      name: 'kbps' as const,
      values: [6, 8, 12, 16, 20, 24, 32, 40, 48, 64, 80, 96, 112, 128, 160, 192, 224, 256],
      usual: 96,
    },
  ],
  usualBytes: ({ kbps }: OpusSettings) => [kbps * 125 * 0.5, kbps * 125 * 1.2] as const,
  settings: yup.object({ kbps: yup.number().min(6).max(256).default(96).required() }),
  describe: ({ kbps }: OpusSettings) => `${kbps} kbit/s`,
};

/** libopus' own delay at 48 kHz, in frames: what its lookahead control answers. */
const PRE_SKIP = 312;
/** Controls of libopus (opus_defines.h). Variable bit rate, held near what is asked, is its default. */
const SET_BITRATE = 4002;
const SET_COMPLEXITY = 4010;
/** Its best search; measured no slower than the next lower ones. */
const MOST_COMPLEXITY = 10;
/** 20 ms, the length that libopus is tuned for. */
const PACKET_FRAMES = 960;

export interface OpusPacket {
  data: Uint8Array;
  /** Frames of sound behind this packet, without the pre-skip; grows by a packet's length. */
  endFrame: number;
}

export interface OpusResult {
  framesIn: number;
  clippedSamples: number;
}

/** What decoders have to leave out in front of a sound: a loop begins behind some of its other end. */
export function preSkipOf({ around }: PcmStream, least = PRE_SKIP): number {
  return least + (blockFrames(around?.before ?? []) > 0 ? LEAD_FRAMES : 0);
}

/**
 * Encodes to packets of 20 ms, with what is around it, else silence, until the whole sound has come out of the delay.
 * `result` counts along and is complete when the last packet has been handed over. A `preSkip` that is
 * longer than the delay is filled up in front likewise.
 */
export async function* encodeOpus(
  pcm: PcmStream,
  { kbps }: OpusSettings,
  result: OpusResult,
  preSkip = PRE_SKIP,
): AsyncGenerator<OpusPacket> {
  const channels = pcm.channelCount as 1 | 2;
  const { Encoder } = await import('@evan/opus/wasm/index.mjs');
  const encoder = new Encoder({ channels, sample_rate: OPUS_RATE, application: 'audio' });
  try {
    encoder.ctl(SET_BITRATE, Math.round(kbps * 1000));
    encoder.ctl(SET_COMPLEXITY, MOST_COMPLEXITY);
    // Opus takes 16-bit samples here and has no grid of its own: dither would only be noise to encode.
    const quantiser = new Quantiser(16, { gridBits: 16 });
    const packetSamples = PACKET_FRAMES * channels;
    let packets = 0;
    const encode = (samples: Int16Array): OpusPacket => {
      packets++;
      return {
        data: encoder.encode(samples).slice(),
        endFrame: packets * PACKET_FRAMES - preSkip,
      };
    };
    const lead = leadIn(pcm, preSkip - PRE_SKIP);
    let waiting: Int16Array = new Int16Array((preSkip - PRE_SKIP) * channels);
    new Quantiser(16, { gridBits: 16 }).put(lead, waiting, 0);
    for await (const block of pcm.blocks) {
      const samples = new Int16Array(waiting.length + blockFrames(block) * channels);
      samples.set(waiting);
      quantiser.put(block, samples, waiting.length);
      result.framesIn += blockFrames(block);
      result.clippedSamples = quantiser.clippedSamples;
      let at = 0;
      for (; at + packetSamples <= samples.length; at += packetSamples) {
        yield encode(samples.subarray(at, at + packetSamples));
      }
      waiting = samples.slice(at);
    }
    if (result.framesIn === 0) throw noSound('Opus');
    const out = leadOut(pcm, 2 * PACKET_FRAMES);
    const rest = new Int16Array(waiting.length + 3 * packetSamples);
    rest.set(waiting);
    new Quantiser(16, { gridBits: 16 }).put(out, rest, waiting.length);
    for (let at = 0; packets * PACKET_FRAMES - preSkip < result.framesIn; at += packetSamples) {
      yield encode(rest.slice(at, at + packetSamples));
    }
  } finally {
    encoder.drop();
  }
}
