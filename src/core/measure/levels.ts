import type { PcmStream } from '../pcm/pcm';
import { LevelMeter } from './level';
import { LoudnessMeter } from './loudness';
import { TruePeakMeter } from './truePeak';

/** What normalising needs to know of a whole sound. */
export interface WholeLevels {
  peakDbfs: number | null;
  truePeakDbtp: number | null;
  lufs: number | null;
  /** Of its loudest 0.4 s; measured with `lufs`. */
  momentaryLufs: number | null;
}

export type LevelName = Exclude<keyof WholeLevels, 'momentaryLufs'>;

const all: readonly LevelName[] = ['peakDbfs', 'truePeakDbtp', 'lufs'];

/** Reads a stream to its end. What is not wanted is not measured, and null. */
export async function measureLevels(
  pcm: PcmStream,
  wanted: readonly LevelName[] = all,
): Promise<WholeLevels> {
  const meters = {
    peakDbfs: new LevelMeter(pcm.channelCount),
    truePeakDbtp: new TruePeakMeter(pcm.rateHz, pcm.channelCount),
    lufs: new LoudnessMeter(pcm),
  };
  for await (const block of pcm.blocks) for (const name of wanted) meters[name].push(block);
  const found = {
    ...meters.peakDbfs.result(),
    ...meters.truePeakDbtp.result(),
    ...meters.lufs.result(),
  };
  const of = (name: LevelName) => (wanted.includes(name) ? found[name] : null);
  return {
    peakDbfs: of('peakDbfs'),
    truePeakDbtp: of('truePeakDbtp'),
    lufs: of('lufs'),
    momentaryLufs: wanted.includes('lufs') ? meters.lufs.momentary() : null,
  };
}
