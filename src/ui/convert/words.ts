import type { FormatChoice } from '@/core/formats/legality';
import type { Dial } from '@/core/formats/types';
import { isPartOf } from '@/core/isPartOf';
import type { OneOffWish, WishedChannels } from '@/core/oneOff/plan';
import { kilohertz, number, size } from '../shared/format';
import type { Expected } from './estimates';

export const dialNames: Record<Dial['name'], string> = {
  kbps: 'Bit rate',
  quality: 'Quality',
  level: 'Effort',
};

/** A value of a dial, for people. */
export function dialValue({ name, says }: Dial, value: number): string {
  const meaning = says?.[value];
  return `${number(value)}${name === 'kbps' ? ' kbit/s' : ''}${meaning ? ` (${meaning})` : ''}`;
}

export const channelNames: Record<WishedChannels, string> = {
  mix: 'mono, mixed',
  left: 'mono, left side',
  right: 'mono, right side',
  stereo: 'stereo',
};

/** What was asked for in one line: "Ogg Vorbis, quality 5, mono, mixed". */
export function wishText(wish: OneOffWish, formats: readonly FormatChoice[]): string {
  const format = formats.find(({ id }) => id === wish.writer);
  const set = wish.settings as Partial<Record<Dial['name'], number>>;
  const dial = format?.dials.find(({ name }) => set[name] !== undefined);
  const depth = format?.depths?.find(({ settings }) => isPartOf(settings, wish.settings));
  return [
    format?.name ?? wish.writer,
    dial
      ? `${dialNames[dial.name].toLowerCase()} ${dialValue(dial, set[dial.name]!)}`
      : usualText(format?.dials[0]),
    depth?.name,
    wish.rateHz === undefined ? undefined : kilohertz(wish.rateHz),
    wish.channels && channelNames[wish.channels],
    wish.together && 'one level together',
    wish.isBare && 'without their steps',
  ]
    .filter(Boolean)
    .join(', ');
}

function usualText(dial: Dial | undefined): string | undefined {
  return dial && `usual ${dialNames[dial.name].toLowerCase()} (${dialValue(dial, dial.usual)})`;
}

/** Whether one figure says it. */
export function isClose({ least, most }: Expected): boolean {
  return most - least < most * 0.02;
}

/** "412 kB", "about 410 kB", "300–520 kB". */
export function expectedText(expected: Expected): string {
  const { least, most, isExact } = expected;
  if (isExact) return size(Math.round(most));
  const [from, to] = [roughly(least), roughly(most)];
  if (isClose(expected) || from === to) return `about ${to}`;
  const unit = / \S+$/.exec(to)?.[0] ?? '';
  return `${from.endsWith(unit) ? from.slice(0, -unit.length) : from}–${to}`;
}

/** Two figures are all that can be said of a guess. */
function roughly(bytes: number): string {
  if (bytes < 10) return size(Math.round(bytes));
  const unit = 10 ** (Math.floor(Math.log10(bytes)) - 1);
  return size(Math.round(bytes / unit) * unit);
}

/** "÷ 8.4", or that it grows. */
export function ratioText(before: number, after: number): string {
  if (after === 0) return '';
  const ratio = before / after;
  return ratio >= 1 ? `÷ ${ratio.toFixed(1)}` : `× ${(1 / ratio).toFixed(1)}, larger`;
}
