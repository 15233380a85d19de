import type { PcmStream } from '../pcm/pcm';
import { LevelMeter } from './level';
import { LoudnessMeter } from './loudness';
import { TruePeakMeter } from './truePeak';

/** What normalising needs to know of a whole sound. */
export interface WholeLevels {
  peakDbfs: number | null;
  truePeakDbtp: number | null;
  lufs: number | null;
}

/** Reads a stream to its end. */
export async function measureLevels(pcm: PcmStream): Promise<WholeLevels> {
  const level = new LevelMeter(pcm.channelCount);
  const truePeak = new TruePeakMeter(pcm.rateHz, pcm.channelCount);
  const loudness = new LoudnessMeter(pcm.rateHz, pcm.channelCount);
  for await (const block of pcm.blocks) {
    for (const meter of [level, truePeak, loudness]) meter.push(block);
  }
  const { peakDbfs } = level.result();
  return { peakDbfs, ...truePeak.result(), lufs: loudness.result().lufs };
}
