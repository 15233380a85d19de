import { toDb } from '../measure/decibels';
import { range, type PcmSource } from '../pcm/source';
import { plainNumber } from '../tradeNames';

const BEFORE_SECONDS = 0.005;
const BEHIND_SECONDS = 0.05;
/** Below it a tail has rung out. */
const RUNG_OUT_DB = -60;

/**
 * The loudest sample around the end of a tail, 5 ms before it to 50 ms behind it, in dBFS: what is still there is
 * cut off. `gainDb` is what the tail is changed by. null where it has rung out.
 */
export async function tailLeftDbfs(
  source: PcmSource,
  tailEnd: number,
  gainDb: number,
): Promise<number | null> {
  const { rateHz, frames } = source;
  const from = Math.max(0, tailEnd - Math.round(BEFORE_SECONDS * rateHz));
  const to = Math.min(frames, tailEnd + Math.round(BEHIND_SECONDS * rateHz));
  let most = 0;
  for await (const block of range(source, from, to)) {
    for (const channel of block) for (const x of channel) most = Math.max(most, Math.abs(x));
  }
  const db = (toDb(most) ?? -Infinity) + gainDb;
  return db > RUNG_OUT_DB ? Math.round(db * 10) / 10 : null;
}

/** What a tail that has not rung out is said to be. */
export function tailLeftSentence(dbfs: number): string {
  return `Where the tail ends the sound is still at ${plainNumber(dbfs)} dBFS: it is cut off there. Take a longer tail.`;
}
