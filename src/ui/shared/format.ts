import prettyBytes from 'pretty-bytes';
import { count } from '@/core/tradeNames';

export { formatTime } from '@/core/time';
export {
  count,
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

export function plural(n: number, one: string, many = `${one}s`): string {
  return `${count(n)} ${n === 1 ? one : many}`;
}
