import { HIGHEST_HZ, LOWEST_HZ } from '../pcm/rates';
import { count } from '../tradeNames';

/** Every whole rate from one to another, in Hz. */
export interface RateSpan {
  fromHz: number;
  toHz: number;
}

/** The sample rates that a format holds, in Hz: those of a list in rising order, or all of a span. */
export type LegalRates = readonly number[] | RateSpan;

/** Every rate that sound can have. */
export const anyRate: RateSpan = { fromHz: LOWEST_HZ, toHz: HIGHEST_HZ };

/** Rates that menus offer where a format holds any, in Hz. */
export const usualRates: readonly number[] = [
  8_000, 11_025, 16_000, 22_050, 24_000, 32_000, 44_100, 48_000, 88_200, 96_000, 192_000,
];

export function isSpan(rates: LegalRates): rates is RateSpan {
  return 'fromHz' in rates;
}

export function holdsRate(rates: LegalRates, hz: number): boolean {
  if (!isSpan(rates)) return rates.includes(hz);
  return Number.isInteger(hz) && hz >= rates.fromHz && hz <= rates.toHz;
}

/** The rate at which most of a sound is kept: its own, else the next higher legal one, else the highest. */
export function rateFor(rates: LegalRates, hz: number): number {
  if (isSpan(rates)) return Math.min(rates.toHz, Math.max(rates.fromHz, hz));
  return rates.find((legal) => legal >= hz) ?? rates.at(-1)!;
}

/** The one or two legal rates that lie nearest, in rising order. */
export function nearestRates(rates: LegalRates, hz: number): number[] {
  return isSpan(rates) ? [rateFor(rates, hz)] : nearest(rates, hz);
}

/** The one or two values that lie nearest, in rising order. */
export function nearest(legal: readonly number[], wanted: number): number[] {
  return byDistance(legal, wanted)
    .slice(0, 2)
    .sort((a, b) => a - b);
}

/** The value that lies nearest. */
export function closest(legal: readonly number[], wanted: number): number {
  return byDistance(legal, wanted)[0]!;
}

function byDistance(legal: readonly number[], wanted: number): number[] {
  return [...legal].sort((a, b) => Math.abs(a - wanted) - Math.abs(b - wanted));
}

/** For people, in kHz: "any from 1 to 200", "8, 16, 24". */
export function ratesName(rates: LegalRates): string {
  const kilo = (hz: number) => count(hz / 1000);
  if (isSpan(rates)) return `any from ${kilo(rates.fromHz)} to ${kilo(rates.toHz)}`;
  return rates.map(kilo).join(', ');
}
