import prettyBytes from 'pretty-bytes';

export { formatTime } from '@/core/time';
export { formatName } from '@/core/brief/requirements';

export function size(bytes: number): string {
  return prettyBytes(bytes);
}

export function count(value: number): string {
  return value.toLocaleString('en');
}

export function kilohertz(rateHz: number): string {
  return `${(rateHz / 1000).toLocaleString('en', { maximumFractionDigits: 3 })} kHz`;
}

export function layout(channels: number): string {
  return { 1: 'mono', 2: 'stereo' }[channels] ?? `${channels} ch`;
}

/** dB with a true minus sign; silence has no number. */
export function decibels(value: number | null): string {
  return value === null ? '−∞' : value.toFixed(1).replace('-', '−');
}

export function plural(n: number, one: string, many = `${one}s`): string {
  return `${count(n)} ${n === 1 ? one : many}`;
}
