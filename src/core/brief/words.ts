import { either, ratesText } from '../tradeNames';
import { isSpan, type Accepted } from './accepted';

/** Rates that are taken: "44.1 or 48 kHz", "22.05 to 48 kHz". */
export function acceptedRates(wanted: Accepted): string {
  return isSpan(wanted) ? `${kilo(wanted.from)} to ${kilo(wanted.to)} kHz` : ratesText(wanted);
}

function kilo(hz: number): string {
  return String(hz / 1000);
}

/** "64", "64 or 96", "64 to 96". */
export function numbersText(wanted: Accepted): string {
  return isSpan(wanted) ? `${wanted.from} to ${wanted.to}` : either(wanted.map(String));
}
