import { LevelMeter } from '../measure/level';
import { LoudnessMeter } from '../measure/loudness';
import { largest } from '../pcm/largest';
import type { Block } from '../pcm/pcm';

/** The loudest sample of a difference is brought to this, in dBFS, … */
const DIFFERENCE_DBFS = -12;
/** … but it is turned up by no more than so much: what lies deeper is nothing. */
const MOST_UP_DB = 60;

/** How loud a stretch is: LUFS, or as root mean square where it is too short for that; null for silence. */
function loudness(channels: Block, rateHz: number): number | null {
  const meter = new LoudnessMeter({ rateHz, channelCount: channels.length });
  const level = new LevelMeter(channels.length);
  meter.push(channels);
  level.push(channels);
  return meter.result().lufs ?? level.result().rmsDbfs;
}

/**
 * By how much each of some stretches is turned down, in dB, so that all are as loud as the quietest of them.
 * @param stretches Of one sound: the same frames of each.
 */
export function matchingGains(stretches: readonly Block[], rateHz: number): number[] {
  const levels = stretches.map((channels) => loudness(channels, rateHz));
  const least = levels.reduce<number>((min, db) => Math.min(min, db ?? Infinity), Infinity);
  return levels.map((db) => (db === null ? 0 : least - db));
}

/** By how much one more stretch is turned so that it is as loud as others are with their gain, in dB. */
export function gainLike(
  stretch: Block,
  other: { channels: Block; gainDb: number },
  rateHz: number,
): number {
  const [own, wanted] = [loudness(stretch, rateHz), loudness(other.channels, rateHz)];
  return own === null || wanted === null ? 0 : wanted + other.gainDb - own;
}

/** What one stretch has that the other has not, and how much it has to be turned up to be heard, in whole dB. */
export function difference(source: Block, decoded: Block): { channels: Block; gainDb: number } {
  const channels = source.map((own, c) => {
    const other = decoded[c]!;
    return own.map((x, i) => other[i]! - x);
  });
  const peak = channels.reduce((most, channel) => Math.max(most, largest(channel)), 0);
  const wanted = peak > 0 ? DIFFERENCE_DBFS - 20 * Math.log10(peak) : 0;
  return { channels, gainDb: Math.round(Math.min(MOST_UP_DB, wanted)) };
}
