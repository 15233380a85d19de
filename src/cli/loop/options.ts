import { crossfadeCurves, type CrossfadeCurve } from '@/core/dsp/loop';
import { MOST_PASSES, usualListening, type ListeningWish } from '@/core/loop/listening';
import { parseTime } from '@/core/time';
import { numberOption, rangeOf, wrong } from '../convert/numbers';
import type { ConvertOptions } from '../convert/options';

/** What a call of `loop show` may ask for, as it was typed. */
export interface ShowOptions {
  start?: string;
  end?: string;
  raw?: string;
  threads?: string;
  json?: boolean;
  jsonLines?: boolean;
}

/** What a call of `loop make` may ask for, as it was typed. */
export interface MakeOptions
  extends
    ShowOptions,
    Pick<
      ConvertOptions,
      | 'out'
      | 'format'
      | 'codec'
      | 'bits'
      | 'bitrate'
      | 'quality'
      | 'level'
      | 'rate'
      | 'channels'
      | 'gain'
      | 'tag'
      | 'stripTags'
      | 'overwrite'
    > {
  introFrom?: string;
  crossfade?: string;
  wrapTail?: string;
  parts?: boolean;
  listeningCopy?: string;
  handover?: boolean;
  unroll?: boolean;
}

/** How the seam is to be made; times as they were typed, for each file has a rate of its own. */
export interface SeamWish {
  crossfade: { time: string; curve: CrossfadeCurve } | null;
  tail: { time: string; db: number } | null;
}

/** @throws wrong-call */
export function seamWish({ crossfade, wrapTail }: MakeOptions): SeamWish {
  if (crossfade !== undefined && wrapTail !== undefined) {
    throw wrong(
      '--crossfade and --wrap-tail exclude each other.',
      'A bed takes a crossfade, music its tail: give one of them.',
    );
  }
  return {
    crossfade: crossfade === undefined ? null : crossfadeWish(crossfade),
    tail: wrapTail === undefined ? null : tailWish(wrapTail),
  };
}

/** `0.2` or `0.2,linear`. */
function crossfadeWish(text: string): SeamWish['crossfade'] {
  const { first, rest } = splitAt(text);
  checkTime(first);
  const curve = rest ?? 'equal-power';
  if (!Object.hasOwn(crossfadeCurves, curve)) {
    throw wrong(
      `--crossfade has no curve "${curve}".`,
      `Choose ${Object.keys(crossfadeCurves).join(', ')}, as in --crossfade 0.2,linear.`,
    );
  }
  return { time: first, curve: curve as CrossfadeCurve };
}

/** `2.5` or `2.5,-3`. */
function tailWish(text: string): SeamWish['tail'] {
  const { first, rest } = splitAt(text);
  checkTime(first);
  return { time: first, db: numberOption('wrap-tail', rest, rangeOf('loop', 'tailDb')) ?? 0 };
}

function splitAt(text: string): { first: string; rest: string | undefined } {
  const comma = text.indexOf(',');
  return comma < 0
    ? { first: text, rest: undefined }
    : { first: text.slice(0, comma), rest: text.slice(comma + 1) };
}

/** Times are read again for each file's own rate; here only whether they are times at all. @throws bad-time */
export function checkTime(text: string | undefined): void {
  if (text !== undefined) parseTime(text, 48_000);
}

/** `3` or `3,15,5`: passes, seconds until the last one fades, seconds of the fade. @throws wrong-call, bad-time */
export function listeningWish(text: string | undefined): ListeningWish | null {
  if (text === undefined) return null;
  const [times = '', fadeAfter, fade, ...more] = text.split(',');
  const passes = Number(times);
  if (!/^\d+$/.test(times) || passes < 1 || passes > MOST_PASSES || more.length > 0) {
    throw wrong(
      `--listening-copy cannot be "${text}".`,
      `Write the passes (1 to ${MOST_PASSES}), and when the last one fades and how long: 3,15,5.`,
    );
  }
  const seconds = (time: string | undefined) =>
    time === undefined ? undefined : parseTime(time, 48_000).seconds;
  return {
    ...usualListening,
    times: passes,
    fadeAfterSeconds: seconds(fadeAfter) ?? usualListening.fadeAfterSeconds,
    fadeSeconds: seconds(fade) ?? usualListening.fadeSeconds,
  };
}
