import { BijouError } from '../errors';
import { layoutName } from '../tradeNames';
import { writers } from './index';
import { readers } from './readers';
import {
  holdsRate,
  isSpan,
  nearest,
  nearestRates,
  ratesName,
  usualRates,
  type LegalRates,
  type RateSpan,
} from './rates';
import type { Dial, WriterKind } from './types';

/** One line of what may be written. */
export interface LegalityRow {
  format: string;
  codec: string;
  name: string;
  extension: string;
  mimeType: string;
  /** Hz; null where all of `rateSpan` are. */
  rates: readonly number[] | null;
  /** Lowest and highest, in Hz. */
  rateSpan: RateSpan;
  channels: readonly number[];
  bitDepths: readonly number[] | null;
  settings: string;
  carries: string[];
}

/** One container and codec as menus offer it. */
export interface FormatChoice extends Pick<
  WriterKind,
  'id' | 'name' | 'format' | 'codec' | 'extension' | 'dials'
> {
  /** Hz. */
  rates: readonly number[];
  channels: readonly number[];
  /** Each with the settings that choose it; null for codecs without. */
  depths: readonly { name: string; settings: object }[] | null;
}

/** Everything that can be written, with its legal rates, channels and depths. */
export function legalityTable(): LegalityRow[] {
  return writers.map(({ format, codec, name, extension, mimeType, legal, range, carries }) => ({
    format,
    codec,
    name,
    extension,
    mimeType,
    ...ratesOf(legal.rates),
    channels: legal.channels,
    bitDepths: legal.depths?.map(({ bits }) => bits) ?? null,
    settings: range,
    carries: Object.entries(carries).flatMap(([what, does]) => (does ? [what] : [])),
  }));
}

function ratesOf(rates: LegalRates): Pick<LegalityRow, 'rates' | 'rateSpan'> {
  if (isSpan(rates)) return { rates: null, rateSpan: rates };
  return { rates, rateSpan: { fromHz: rates[0]!, toHz: rates.at(-1)! } };
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
    ratesName(row.rates ?? row.rateSpan),
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

/** The values of a writer's dials that are legal at every one of these rates and layouts. */
export function legalDials(
  { dials, refuses, settings }: WriterKind,
  shapes: readonly { rateHz: number; channels: number }[],
): Dial[] {
  if (!refuses) return [...dials];
  const defaults = settings.getDefault() as Record<string, unknown>;
  return dials.map((dial) => ({
    ...dial,
    values: dial.values.filter((value) => {
      const set = { ...defaults, [dial.name]: value };
      return !shapes.some(({ rateHz, channels }) => refuses(set, rateHz, channels));
    }),
  }));
}

/** Everything that can be converted to, as menus offer it. */
export function formatChoices(): FormatChoice[] {
  return writers
    .filter(({ id }) => id !== 'raw' && id !== 'c')
    .map(({ id, name, format, codec, extension, legal, dials }) => ({
      ...{ id, name, format, codec, extension, dials },
      rates: isSpan(legal.rates)
        ? usualRates.filter((hz) => holdsRate(legal.rates, hz))
        : legal.rates,
      channels: legal.channels,
      depths:
        legal.depths?.map(({ bits, isFloat, settings }) => ({
          name: `${bits}-bit${isFloat ? ' float' : ''}`,
          settings,
        })) ?? null,
    }));
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
  if (!holdsRate(legal.rates, rateHz)) {
    return new BijouError(
      'not-legal',
      `${name} cannot hold ${rateHz} Hz.`,
      `Resample to ${nearestRates(legal.rates, rateHz).join(' or ')} Hz.`,
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
