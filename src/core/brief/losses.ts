import { isLossy } from '../formats/lossy';
import { writerById } from '../formats/write';
import { isPartOf } from '../isPartOf';
import type { ListedFacts } from '../measure/probe';
import { formatName, kilohertz, layoutName, plainNumber } from '../tradeNames';
import type { NeededFile } from './needs';

/** What lies above rising frequencies, as `measure/spectrum` gives it. */
interface SpectrumPicture {
  hz: readonly number[];
  aboveDb?: readonly number[];
}

/** Below this nobody misses it. */
const NOTHING_DB = -90;

/**
 * What goes and does not come back, in sentences: lossy into lossy, what lies above the new half rate, channels,
 * depth.
 * @param spectrum Of the source; null where it is not known, or its rate is changed by steps of its own.
 */
export function lossesOf(
  facts: ListedFacts,
  { plan, shape, file }: NeededFile,
  spectrum: SpectrumPicture | null,
): string[] {
  if (plan.isCopy) return [];
  return [
    again(facts, file),
    above(facts, shape.rateHz, spectrum),
    channels(facts, shape.channelCount),
    depth(facts, plan),
  ].filter((one) => one !== null);
}

function again({ container, codec }: ListedFacts, file: NeededFile['file']): string | null {
  if (!isLossy(codec) || !isLossy(file.codec)) return null;
  return (
    `Lossy into lossy: ${formatName(container, codec)} has lost something already, and ` +
    `${formatName(file.container, file.codec)} loses again.`
  );
}

function above(
  { sampleRateHz, bandwidthHz }: ListedFacts,
  rateHz: number,
  spectrum: SpectrumPicture | null,
): string | null {
  const half = rateHz / 2;
  if (rateHz >= sampleRateHz) return null;
  if (bandwidthHz !== null && bandwidthHz <= half) {
    return `Nothing goes with the lower rate: it ends at ${kilohertz(Math.round(bandwidthHz / 100) * 100)}.`;
  }
  const share = spectrum && shareAboveDb(spectrum, half);
  if (share == null) return `What lies above ${kilohertz(half)} goes.`;
  return share < NOTHING_DB
    ? `Nothing that is heard goes with the lower rate.`
    : `What lies above ${kilohertz(half)} goes: it is about ${plainNumber(-share, 0)} dB below all of it.`;
}

/** The energy above a frequency, in dB of all of it; null where nobody has measured it. */
export function shareAboveDb({ hz, aboveDb }: SpectrumPicture, fromHz: number): number | null {
  if (!aboveDb) return null;
  const next = hz.findIndex((at) => at >= fromHz);
  if (next < 0) return -Infinity;
  const [before, behind] = [aboveDb[Math.max(0, next - 1)]!, aboveDb[next]!];
  const from = hz[Math.max(0, next - 1)]!;
  const part = hz[next]! > from ? (fromHz - from) / (hz[next]! - from) : 0;
  return before + (behind - before) * part;
}

function channels({ channels, identicalChannels }: ListedFacts, count: number): string | null {
  if (count >= channels) return null;
  const text = `${layoutName(channels)} becomes ${layoutName(count)}`;
  return identicalChannels
    ? `No channel is lost: all are the same, and ${text}.`
    : `Where things stand goes: ${text}.`;
}

function depth(
  { bitDepth, codec, usedBits }: ListedFacts,
  plan: NeededFile['plan'],
): string | null {
  const depths = writerById(plan.writer).legal.depths;
  const to = depths?.find(({ settings }) => isPartOf(settings, plan.settings));
  if (!to || to.isFloat || bitDepth === null || codec === 'ima-adpcm') return null;
  const isFloat = codec === 'float';
  if (!isFloat && to.bits >= bitDepth) return null;
  if (usedBits !== null && usedBits <= to.bits) {
    return `No depth is lost: it uses ${usedBits} of its ${bitDepth} bits.`;
  }
  return `Depth goes: ${bitDepth}-bit${isFloat ? ' float' : ''} becomes ${to.bits}-bit, with dither.`;
}
