import prettyBytes from 'pretty-bytes';

export { formatTime } from '@/core/time';
export { plural } from '@/core/words';
export {
  count,
  either,
  formatName,
  kilohertz,
  layoutName as layout,
  plainNumber as number,
} from '@/core/tradeNames';

export function size(bytes: number): string {
  return prettyBytes(bytes);
}

/** dB with a true minus sign; silence has no number. */
export function decibels(value: number | null): string {
  return value === null ? '−∞' : value.toFixed(1).replace('-', '−');
}
