import { filledSettings, writerById } from '../formats/write';
import type { NeededFile } from './needs';

/** What a file will come to, in bytes, before it is built; and what that is concluded from. */
export interface ExpectedBytes {
  least: number;
  most: number;
  /** Its length decides · what files like it really came to · what such files usually come to. */
  basis: 'exact' | 'neighbours' | 'usual';
}

/** What stands around the samples, about: headers and tags. */
const AROUND_BYTES = 500;
/** Of one file alone nobody knows how far others lie from it. */
const SPREAD_OF_ONE = 0.25;

/** Tells ways of making a file apart, whichever settings were left at their usual value. */
export function sizeKeyOf(
  writer: string,
  settings: object,
  rateHz: number,
  channelCount: number,
): string {
  const filled = filledSettings(writerById(writer), settings);
  return JSON.stringify([writer, filled, rateHz, channelCount]);
}

/** How a file is made. Those that are made alike come to about the same size a second. */
export const sizeKey = ({ plan, shape }: NeededFile): string =>
  sizeKeyOf(plan.writer, plan.settings, shape.rateHz, shape.channelCount);

/**
 * What a file will come to.
 * @param sourceBytes Of the source that it is made of.
 * @param neighbours Bytes a second that files of the same `sizeKey` came to.
 */
export function expectedBytes(
  { plan, shape }: NeededFile,
  sourceBytes: number,
  neighbours: readonly number[],
): ExpectedBytes {
  if (plan.isCopy) return { least: sourceBytes, most: sourceBytes, basis: 'exact' };
  const writer = writerById(plan.writer);
  const settings = filledSettings(writer, plan.settings);
  const { rateHz, channelCount, frames } = shape;
  const seconds = frames / rateHz;
  const known = writer.soundBytes?.(frames, settings, rateHz, channelCount);
  if (known != null) return { least: known, most: known + AROUND_BYTES, basis: 'exact' };
  if (neighbours.length > 0) {
    const mean = neighbours.reduce((sum, one) => sum + one, 0) / neighbours.length;
    const spread = spreadOf(neighbours, mean);
    return {
      least: Math.max(0, (mean - spread) * seconds),
      most: (mean + spread) * seconds + AROUND_BYTES,
      basis: 'neighbours',
    };
  }
  const [least, most] = writer.usualBytes?.(settings as never, rateHz, channelCount) ?? [0, 0];
  return { least: least * seconds, most: most * seconds + AROUND_BYTES, basis: 'usual' };
}

/** Standard deviation of a sample. */
function spreadOf(values: readonly number[], mean: number): number {
  if (values.length === 1) return mean * SPREAD_OF_ONE;
  const squares = values.reduce((sum, one) => sum + (one - mean) ** 2, 0);
  return Math.sqrt(squares / (values.length - 1));
}
