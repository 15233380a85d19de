import { blockFrames, inBlocks, type Block } from '../../pcm/pcm';
import { damagedFrames, damagedSound, truncated, unknownCodec } from '../problems';
import type { Warning } from '../types';
import { FrameWindow } from '../window';
import { aacDecoder } from './package';
import { plural } from '../../words';

/** Frames of media that one AAC packet holds, at the core's rate. */
export const PACKET_FRAMES = 1_024;
/** Packets decoded at a time. */
const BATCH = 24;
/**
 * More than so many packets that fail, and more than a fifth of all, and no more are tried: for each that
 * fails the decoder takes as long as for hundreds that do not.
 */
const MOST_FAILED = 500;
/** Frames by which spectral band replication delays its output (the decoder's filter banks). */
const SBR_DELAY = 962;

export interface AacFormat {
  /** AudioSpecificConfig (ISO/IEC 14496-3, 1.6.2.1). */
  config: Uint8Array;
  /** Rate and channels of what comes out: HE-AAC plays at twice its core's rate. */
  rateHz: number;
  channels: number;
  isHe: boolean;
}

/** Decodes a few packets to learn what comes out: the headers of HE-AAC may keep quiet about it. */
export async function aacFormat(
  config: Uint8Array,
  coreRateHz: number,
  packets: Uint8Array[],
): Promise<AacFormat | null> {
  const decoder = await aacDecoder(config);
  try {
    const { channelData, sampleRate } = decoder.decode(packets);
    if (blockFrames(channelData) === 0) return null;
    const isHe = sampleRate > coreRateHz * 1.5 || isSbrConfig(config);
    return { config, rateHz: sampleRate, channels: channelData.length, isHe };
  } catch {
    return null;
  } finally {
    decoder.free();
  }
}

/** Audio object types 5 and 29 are HE-AAC and its second version. */
export function isSbrConfig(config: Uint8Array): boolean {
  const type = (config[0] ?? 0) >> 3;
  return type === 5 || type === 29;
}

export interface AacSpan {
  /** Frames of media in front of the sound, and the sound's length where it is known. */
  mediaStart: number;
  frames: number | null;
  startFrame: number;
}

/**
 * Decodes packets and cuts priming and padding. The decoder keeps its first packet back, so what it
 * gives begins one packet into the media.
 */
export async function* decodeAac(
  packets: AsyncIterable<Uint8Array>,
  format: AacFormat,
  warnings: Warning[],
  { mediaStart, frames, startFrame }: AacSpan,
): AsyncGenerator<Block> {
  const decoder = await aacDecoder(format.config);
  const withheld = format.isHe ? 2 * PACKET_FRAMES - SBR_DELAY : PACKET_FRAMES;
  const left = frames === null ? Infinity : frames - startFrame;
  const window = new FrameWindow(Math.max(0, mediaStart - withheld) + startFrame, left);
  let failed = 0;
  function* run(batch: Uint8Array[]): Generator<Block> {
    const result = decoder.decode(batch);
    failed += result.errors ?? 0;
    if (blockFrames(result.channelData) === 0) return;
    if (result.sampleRate !== format.rateHz || result.channelData.length !== format.channels) {
      throw unknownCodec('AAC', 'sound whose rate or layout changes', 'M4A with AAC-LC, or WAV');
    }
    const block = window.cut(result.channelData);
    if (block) yield* inBlocks(block);
  }
  try {
    let batch: Uint8Array[] = [];
    let tried = 0;
    for await (const packet of packets) {
      batch.push(packet);
      if (batch.length < BATCH) continue;
      yield* run(batch);
      batch = [];
      if (window.isFull) break;
      tried += BATCH;
      const came = window.decoded / (PACKET_FRAMES * (format.isHe ? 2 : 1));
      if (tried - came > MOST_FAILED + tried / 5) {
        warnings.push(truncated('so much of it is damaged that the rest was not tried'));
        break;
      }
    }
    if (batch.length > 0) yield* run(batch);
  } finally {
    decoder.free();
  }
  if (window.decoded === 0) throw damagedSound('AAC');
  if (window.missing > 0 && failed <= 1 && warnings.length === 0) {
    warnings.push(truncated(`its end is missing: ${plural(window.missing, 'frame')}`));
  }
  // The packet that is kept back counts as an error in the decoder's own reckoning.
  if (failed > 1) warnings.push(damagedFrames(failed - 1));
}
