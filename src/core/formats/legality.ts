import { BijouError } from '../errors';
import { layoutName } from '../tradeNames';
import { readers, writers } from './index';
import type { WriterKind } from './types';

/** One line of what may be written. */
export interface LegalityRow {
  format: string;
  codec: string;
  name: string;
  extension: string;
  mimeType: string;
  /** Hz; null for any from 1,000 to 768,000. */
  rates: readonly number[] | null;
  channels: readonly number[];
  bitDepths: readonly number[] | null;
  settings: string;
  carries: string[];
}

/** Everything that can be written, with its legal rates, channels and depths. */
export function legalityTable(): LegalityRow[] {
  return writers.map(({ format, codec, name, extension, mimeType, legal, range, carries }) => ({
    format,
    codec,
    name,
    extension,
    mimeType,
    ...legal,
    settings: range,
    carries: Object.entries(carries).flatMap(([what, does]) => (does ? [what] : [])),
  }));
}

/** Everything that can be read. */
export function readableTable() {
  return readers.map(({ name, codecs, extensions }) => ({ name, codecs, extensions }));
}

/** Both tables as Markdown, for the README. */
export function formatTables(): string {
  const line = (cells: readonly string[]) => `| ${cells.join(' | ')} |`;
  const table = (head: readonly string[], rows: readonly (readonly string[])[]) =>
    [line(head), line(head.map(() => '---')), ...rows.map(line)].join('\n');
  const written = legalityTable().map((row) => [
    `\`${row.format}\``,
    `\`${row.codec}\``,
    row.settings,
    row.rates?.map((hz) => hz / 1000).join(', ') ?? 'any from 1 to 768',
    spanName(row.channels),
    row.carries.join(', ') || '–',
  ]);
  return [
    'Read, by what is in the file and never by its name:',
    '',
    table(
      ['Container', 'What is understood inside', 'Usual endings'],
      readableTable().map((row) => [row.name, row.codecs, row.extensions.join(', ')]),
    ),
    '',
    'Written:',
    '',
    table(['`--format`', '`--codec`', 'Settings', 'Rates in kHz', 'Channels', 'Carries'], written),
  ].join('\n');
}

export function spanName(values: readonly number[]): string {
  const [first, last] = [values[0], values.at(-1)];
  return values.length > 2 ? `${first} to ${last}` : values.join(', ');
}

/** Why a format may not hold this rate and layout, with the nearest that it may; null when it may. */
export function legalityRefusal(
  { name, legal }: WriterKind,
  rateHz: number,
  channels: number,
): BijouError | null {
  if (legal.rates && !legal.rates.includes(rateHz)) {
    return new BijouError(
      'not-legal',
      `${name} cannot hold ${rateHz} Hz.`,
      `Resample to ${nearest(legal.rates, rateHz).join(' or ')} Hz.`,
    );
  }
  if (!legal.channels.includes(channels)) {
    const near = nearest(legal.channels, channels).map(layoutName);
    return new BijouError(
      'not-legal',
      `${name} cannot hold ${channels} channels here.`,
      `Turn the sound into ${near.join(' or ')} first.`,
    );
  }
  return null;
}

/** The two legal values that lie nearest, in order. */
function nearest(legal: readonly number[], wanted: number): number[] {
  const near = [...legal].sort((a, b) => Math.abs(a - wanted) - Math.abs(b - wanted)).slice(0, 2);
  return near.sort((a, b) => a - b);
}
