import type { Spectra } from './spectra';

/** A tone that the source has not. */
export interface AddedTone {
  hz: number;
  /** Below the strongest tone of the source, in dB. */
  db: number;
}

/** Half the width of a tone in the spectrum (Blackman–Harris), in bins, with some room. */
const LINE_BINS = 8;
/** A source is made of tones when nothing else in it comes up to this below the strongest, in dB. */
const ELSE_DB = -70;
const MOST_LINES = 8;
const MOST_ADDED = 5;
/** Nobody hears a tone that lies lower than that below the strongest. */
const LEAST_DB = -100;
/** How far a tone stands out of what lies around it, in dB. */
const STANDS_OUT_DB = 10;
const AROUND_BINS = 40;

/**
 * Tones that were not there (harmonics, products of two tones), the strongest first. Only a source that is made of a
 * few steady tones can show them: null for all others.
 */
export function addedTones({ source, decoded, binHz }: Spectra): AddedTone[] | null {
  const most = source.reduce((a, b) => Math.max(a, b), 0);
  if (most === 0) return null;
  const rest = Float64Array.from(source);
  const own = Float64Array.from(decoded);
  for (let line = 0; ; line++) {
    const bin = largestAt(rest);
    if (rest[bin]! <= most * 10 ** (ELSE_DB / 10)) break;
    if (line === MOST_LINES) return null;
    clear(rest, bin);
    clear(own, bin);
  }
  const strongest = linePower(source, largestAt(source));
  const added: AddedTone[] = [];
  while (added.length < MOST_ADDED) {
    const bin = largestAt(own);
    const power = own[bin]!;
    const db = 10 * Math.log10(linePower(own, bin) / strongest);
    if (!(db > LEAST_DB)) break;
    const isNew = power > 4 * source[bin]!;
    if (isNew && power > around(own, bin) * 10 ** (STANDS_OUT_DB / 10)) {
      added.push({ hz: Math.round(bin * binHz), db });
    }
    clear(own, bin);
  }
  return added;
}

function largestAt(power: Float64Array): number {
  let at = 0;
  for (let bin = 1; bin < power.length; bin++) if (power[bin]! > power[at]!) at = bin;
  return at;
}

/** A tone between two bins is as strong as one on a bin: all of its line counts. */
function linePower(power: Float64Array, bin: number): number {
  const line = power.subarray(Math.max(0, bin - LINE_BINS / 2), bin + LINE_BINS / 2 + 1);
  return line.reduce((sum, x) => sum + x, 0);
}

function clear(power: Float64Array, bin: number): void {
  power.fill(0, Math.max(0, bin - LINE_BINS), bin + LINE_BINS + 1);
}

/** The middle power of the bins around a line. */
function around(power: Float64Array, bin: number): number {
  const from = Math.max(0, bin - AROUND_BINS);
  const beside = [...power.subarray(from, bin + AROUND_BINS + 1)].sort((a, b) => a - b);
  return beside[beside.length >> 1]!;
}
