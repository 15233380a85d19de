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

/** Today's time, or the day: "14:05", "3 Nov". */
export function shortWhen(text: string): string {
  const date = new Date(text);
  const isToday = date.toDateString() === new Date().toDateString();
  return isToday
    ? date.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
    : date.toLocaleDateString('en-GB', { day: 'numeric', month: 'short' });
}

export function size(bytes: number): string {
  return prettyBytes(bytes);
}

/** dB with a true minus sign; silence has no number. */
export function decibels(value: number | null): string {
  return value === null ? '−∞' : value.toFixed(1).replace('-', '−');
}
