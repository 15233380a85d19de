import { BijouError } from '../errors';
import { legalityRefusal } from '../formats/legality';
import { holdsRate, isSpan, rateFor } from '../formats/rates';
import type { Depth, WriterKind } from '../formats/types';
import { filledSettings, writerById } from '../formats/write';
import type { Shape, Step } from '../recipe/types';
import { count, layoutName } from '../tradeNames';
import type { Change } from './change';

/** What is asked of a one-off conversion; what is left out stays as the source has it. */
export interface Wish {
  writer: string;
  /** Settings that were asked for by name. */
  settings: object;
  /** Refuses what the format cannot hold, in place of the nearest that it can. */
  isStrict?: boolean | undefined;
  /** The settings are only usual: what cannot be goes to the nearest that can. */
  isUsual?: boolean | undefined;
}

/** How a source stores its samples. */
export interface StoredAs {
  codec: string;
  /** null for lossy codecs. */
  bitDepth: number | null;
}

/** What has to be done behind a sound's own steps so that a format can hold it. */
export interface Fit {
  steps: Step[];
  /** Complete: asked for, as the source, or usual. */
  settings: object;
  changes: Change[];
}

/** Lossy sounds have no depth of their own; this one holds what people hear of them. */
const DEPTH_OF_LOSSY = 16;

/**
 * Fits a sound into a format: rate, channels and depth as they are, or the nearest that the format holds; bit
 * rates that nobody asked for likewise. `shaped` is the sound behind its own steps.
 * @throws not-legal for what was asked for and cannot be; when strict, for every change.
 */
export function fit(shaped: Shape, stored: StoredAs, wish: Wish): Fit {
  const kind = writerById(wish.writer);
  if (wish.isStrict) {
    const refusal = legalityRefusal(kind, shaped.rateHz, shaped.channelCount);
    if (refusal) throw refusal;
  }
  const rate = rateChange(kind, shaped.rateHz);
  const channels = channelChange(kind, shaped.channelCount);
  const after = {
    rateHz: rate?.rateHz ?? shaped.rateHz,
    channels: channels?.count ?? shaped.channelCount,
  };
  const depth = depthFor(kind, stored, wish.settings);
  const bitRate = bitRateFor(kind, { ...depth?.settings, ...wish.settings }, after, wish);
  const changes = [rate, channels, depth, bitRate].flatMap((one) => one?.change ?? []);
  if (wish.isStrict && changes.length > 0) throw strictRefusal(changes[0]!);
  return {
    // One channel costs half as much to resample.
    steps: [channels, rate].flatMap((one) => one?.step ?? []),
    settings: bitRate.settings,
    changes,
  };
}

function rateChange({ name, legal: { rates } }: WriterKind, rateHz: number) {
  if (holdsRate(rates, rateHz)) return null;
  const to = rateFor(rates, rateHz);
  const isOnly = !isSpan(rates) && rates.length === 1;
  const change: Change = {
    kind: 'rate',
    from: `${count(rateHz)} Hz`,
    to: `${count(to)} Hz`,
    why: isOnly ? `${name} holds no other` : `${name} cannot hold ${count(rateHz)} Hz`,
    format: name,
  };
  const step: Step = { kind: 'resample', on: true, params: { rateHz: to } };
  return { rateHz: to, change, step };
}

function channelChange({ name, legal }: WriterKind, channelCount: number) {
  if (legal.channels.includes(channelCount)) return null;
  // The most that it can hold keeps the most of the sound.
  const held = legal.channels.filter((one) => one <= channelCount);
  // ... and mixing down ends with two.
  const to = Math.min(2, held.length > 0 ? Math.max(...held) : Math.min(...legal.channels));
  const mode = to === 1 ? 'mix' : 'stereo';
  const change: Change = {
    kind: 'channels',
    from: layoutName(channelCount),
    to: layoutName(to),
    why: `${name} cannot hold ${layoutName(channelCount)}`,
    format: name,
  };
  const step: Step = { kind: 'channels', on: true, params: { mode } };
  return { count: to, change, step };
}

/** The settings that store samples as the source does; null where the codec has no depth, or one was asked for. */
function depthFor(kind: WriterKind, { codec, bitDepth }: StoredAs, asked: object) {
  const { depths } = kind.legal;
  if (!depths || Object.keys(depths[0]!.settings).some((key) => key in asked)) return null;
  const isFloat = codec === 'float';
  const bits = bitDepth ?? DEPTH_OF_LOSSY;
  const to = nearestDepth(depths, bits, isFloat);
  const isKept = bitDepth === null || (to.bits === bits && Boolean(to.isFloat) === isFloat);
  const change: Change = {
    kind: 'depth',
    from: depthName({ bits, isFloat }),
    to: depthName(to),
    why: `${kind.name} has no ${depthName({ bits, isFloat })}`,
    format: kind.name,
  };
  return { settings: to.settings, change: isKept ? null : change };
}

/** Of the same kind the next deeper one; what is deeper than all integers goes to float where there is one. */
function nearestDepth(depths: readonly Depth[], bits: number, isFloat: boolean): Depth {
  const alike = depths.filter((depth) => Boolean(depth.isFloat) === isFloat);
  const deeper = [...alike, ...depths].find((depth) => depth.bits >= bits);
  return deeper ?? alike.at(-1) ?? depths.at(-1)!;
}

function depthName({ bits, isFloat }: { bits: number; isFloat?: boolean }): string {
  return isFloat ? `${bits}-bit float` : `${bits}-bit`;
}

function bitRateFor(
  kind: WriterKind,
  given: object,
  { rateHz, channels }: { rateHz: number; channels: number },
  { settings: asked, isUsual = false }: Wish,
): { settings: object; change: Change | null } {
  const settings = filledSettings(kind, given);
  const isAsked = !isUsual && ('kbps' in asked || 'quality' in asked);
  if (isAsked || !kind.nearest || !kind.refuses?.(settings, rateHz, channels)) {
    return { settings, change: null };
  }
  const near = kind.nearest(settings, rateHz, channels);
  const change: Change = {
    kind: 'bit-rate',
    from: kind.describe(settings),
    to: kind.describe(near),
    why: `${kind.name} has no ${kind.describe(settings)} at ${count(rateHz)} Hz`,
    format: kind.name,
  };
  return { settings: near, change };
}

function strictRefusal({ from, to, why }: Change): BijouError {
  return new BijouError('not-legal', `It has ${from}, and ${why}.`, `Ask for ${to}.`);
}
