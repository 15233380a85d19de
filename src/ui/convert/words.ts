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
export function dialValue({ name, values }: Dial, value: number): string {
  if (name === 'kbps') return `${value} kbit/s`;
  const isBest = value === values.at(-1);
  const isLeast = value === values[0];
  if (name === 'level') return `${value}${isLeast ? ' (quick)' : isBest ? ' (small)' : ''}`;
  // MP3 counts down to the best, Vorbis up.
  const isUp = values[0]! < 0;
  const end = isLeast
    ? isUp
      ? ' (small)'
      : ' (best)'
    : isBest
      ? isUp
        ? ' (best)'
        : ' (small)'
      : '';
  return `${number(value)}${end}`;
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

/** "412 kB", "about 410 kB", "300–520 kB". */
export function expectedText({ least, most, isExact }: Expected): string {
  if (isExact) return size(Math.round(most));
  const about = roughly(most);
  if (most - least < most * 0.02) return `about ${about}`;
  const [from, to] = [roughly(least), about];
  const unit = / \S+$/.exec(to)?.[0] ?? '';
  return from === to
    ? `about ${to}`
    : `${from.endsWith(unit) ? from.slice(0, -unit.length) : from}–${to}`;
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
