import { holdsRate, isSpan as isRateSpan, rateFor, usualRates } from '../formats/rates';
import { filledSettings, writerById } from '../formats/write';
import type { Depth } from '../formats/types';
import { accepts, isSpan } from './accepted';
import type { Shape } from '../recipe/types';
import type { Brief, BriefFile } from './schema';
import type { CheckedFacts } from './types';

/**
 * The rate that a file will have, in Hz: the sound's own where it is taken, else the preferred one of a list, else
 * the next higher of those that are open. What is fixed (the bit rate) stands above what is free.
 */
export function rateTarget(file: BriefFile, rateHz: number, channels: number): number {
  const { sampleRatesHz } = file;
  if (sampleRatesHz && !isSpan(sampleRatesHz)) {
    return sampleRatesHz.includes(rateHz) ? rateHz : sampleRatesHz[0]!;
  }
  const writer = writerById(file.writer);
  const settings = filledSettings(writer, file.settings);
  const count = channelTarget(file, channels) ?? channels;
  const isOpen = (hz: number) =>
    accepts(sampleRatesHz, hz) &&
    holdsRate(writer.legal.rates, hz) &&
    (!isFixed(file) || !writer.refuses?.(settings, hz, count));
  if (isOpen(rateHz)) return rateHz;
  const { rates } = writer.legal;
  const ends = sampleRatesHz ? [sampleRatesHz.from, sampleRatesHz.to] : [];
  const known = isRateSpan(rates) ? [...usualRates, ...ends] : rates;
  const open = [...new Set(known)].filter(isOpen).sort((a, b) => a - b);
  return open.length > 0 ? rateFor(open, rateHz) : rateHz;
}

/** Whether the bit rate is said, and does not only happen to be the usual one. */
function isFixed({ settings }: BriefFile): boolean {
  return 'kbps' in settings;
}

/** How many channels it will have; null where nobody can make what is wanted. */
export function channelTarget(file: BriefFile, channels: number): number | null {
  const { legal } = writerById(file.writer);
  const taken = (file.channels ?? legal.channels).filter((count) => legal.channels.includes(count));
  if (taken.includes(channels)) return channels;
  const made = taken.filter((count) => count === 1 || (count === 2 && channels !== 2));
  // Mixing down ends with two, where that is taken.
  return made.includes(2) && channels > 2 ? 2 : (made[0] ?? null);
}

/** The depth that it will be stored with; null where the codec has none, or its settings say it. */
export function depthTarget(
  file: BriefFile,
  { codec, bitDepth }: Pick<CheckedFacts, 'codec' | 'bitDepth'>,
): number | null {
  if (!file.bitDepths) return null;
  const isKept = bitDepth !== null && codec !== 'float' && file.bitDepths.includes(bitDepth);
  return isKept ? bitDepth : file.bitDepths[0]!;
}

/** The settings that a file is written with, for one sound. */
export function settingsFor(
  file: BriefFile,
  facts: Pick<CheckedFacts, 'codec' | 'bitDepth'>,
  { rateHz, channelCount }: Pick<Shape, 'rateHz' | 'channelCount'>,
): object {
  const writer = writerById(file.writer);
  const depths = writer.legal.depths ?? [];
  const bits = depthTarget(file, facts) ?? freeDepth(file, facts, depths);
  const depth = depths.find((one) => one.bits === bits)?.settings;
  const settings = { ...file.settings, ...depth };
  const filled = filledSettings(writer, settings);
  if (isFixed(file) || !writer.refuses?.(filled, rateHz, channelCount)) return settings;
  return writer.nearest?.(filled, rateHz, channelCount) ?? settings;
}

/** Lossy sounds have no depth of their own; this one holds what people hear of them. */
const DEPTH_OF_LOSSY = 16;

/** As the source, where neither the brief nor its settings say anything: the next deeper that there is. */
function freeDepth(
  { settings }: BriefFile,
  { codec, bitDepth }: Pick<CheckedFacts, 'codec' | 'bitDepth'>,
  depths: readonly Depth[],
): number | null {
  if (depths.length === 0 || 'bits' in settings || 'encoding' in settings) return null;
  const wanted = codec === 'float' ? Infinity : (bitDepth ?? DEPTH_OF_LOSSY);
  return (depths.find(({ bits }) => bits >= wanted) ?? depths.at(-1)!).bits;
}

const USUAL_TOLERANCE_LU = 1;

/** How far a loudness may lie beside what is asked for, in LU. */
export function toleranceOf(level: NonNullable<Brief['level']>): number {
  return level.toleranceLu ?? USUAL_TOLERANCE_LU;
}
