import { writerById } from '../formats/write';
import { kilohertz, plainNumber } from '../tradeNames';
import { accepts, isSpan } from './accepted';
import type { Choices } from './choices';
import { offeredRates } from './complete';
import type { NeededFile } from './needs';
import type { Brief } from './schema';

/** One way in which a file that is too big would fit, or come nearer to it. */
export interface Remedy {
  /** In a few words: "11.025 kHz", "quality 3", "mono", "the first 2.4 s". */
  label: string;
  /** All choices as they would be then. */
  choices: Choices;
}

/** Ways of one kind, from the least change on: the first that fits is the one to take. */
export type RemedyLadder = readonly Remedy[];

/** Rungs of a ladder of lengths: what stands around the samples does not shrink along. */
const SPARES = [0.985, 0.96, 0.9, 0.75];

/**
 * What makes a file smaller, of that which its brief leaves open: lower rates, lower quality, mono, shorter. What each
 * comes to is asked for apart.
 * @param bytes What it comes to now.
 */
export function remediesFor(
  brief: Brief,
  { file, plan, shape }: NeededFile,
  choices: Choices,
  bytes: number,
): RemedyLadder[] {
  const { mostBytes = Infinity } = brief;
  const wanted = mostBytes / bytes;
  return [
    lowerSettings(file, plan.settings, choices, wanted),
    lowerRates(brief, file.id, shape.rateHz, choices),
    lowerDepths(brief, file, plan.settings, choices),
    mono(brief, file.id, shape.channelCount, choices),
    shorter((shape.frames / shape.rateHz) * wanted, brief, choices),
  ].filter((ladder) => ladder.length > 0);
}

function lowerRates(brief: Brief, fileId: string, rateHz: number, choices: Choices): Remedy[] {
  const whole = brief.files.find(({ id }) => id === fileId)!;
  const { sampleRatesHz: taken } = whole;
  const offered =
    taken && !isSpan(taken) ? [...taken] : offeredRates(writerById(whole.writer), whole);
  return offered
    .filter((hz) => hz < rateHz)
    .sort((a, b) => b - a)
    .map((hz) => ({ label: kilohertz(hz), choices: { ...choices, rateHz: hz } }));
}

function lowerDepths(
  brief: Brief,
  file: NeededFile['file'],
  settings: object,
  choices: Choices,
): Remedy[] {
  const { bitDepths, writer } = brief.files.find(({ id }) => id === file.id)!;
  const { bits: now = Infinity } = settings as { bits?: number };
  const legal = writerById(writer).legal.depths ?? [];
  return legal
    .map(({ bits }) => bits)
    .filter((bits) => bits < now && accepts(bitDepths, bits))
    .sort((a, b) => b - a)
    .map((bits) => ({
      label: `${bits}-bit`,
      choices: {
        ...choices,
        settings: { ...choices.settings, [file.id]: { ...choices.settings?.[file.id], bits } },
      },
    }));
}

function lowerSettings(
  file: NeededFile['file'],
  settings: object,
  choices: Choices,
  wanted: number,
): Remedy[] {
  const writer = writerById(file.writer);
  const set = settings as Record<string, number | undefined>;
  const dials = writer.dials.filter(({ name }) => name !== 'level');
  const dial = dials.find(({ name }) => set[name] !== undefined) ?? dials[0];
  if (!dial) return [];
  const { name, values, usual, says } = dial;
  const now = set[name] ?? usual;
  const isSmallHigh = says?.[values.at(-1)!] === 'small';
  return (
    values
      .filter((value) => (isSmallHigh ? value > now : value < now))
      .filter((value) => name !== 'kbps' || accepts(file.bitRatesKbps, value))
      // A file of so many bits a second is as large as they say: those above need not be tried.
      .filter(
        (value, _, all) => name !== 'kbps' || value <= now * wanted || value === Math.min(...all),
      )
      .sort((a, b) => Math.abs(a - now) - Math.abs(b - now))
      .map((value) => ({
        label: name === 'kbps' ? `${value} kbit/s` : `quality ${plainNumber(value)}`,
        choices: {
          ...choices,
          settings: { ...choices.settings, [file.id]: { [name]: value } },
        },
      }))
  );
}

function mono(brief: Brief, fileId: string, channelCount: number, choices: Choices): Remedy[] {
  const whole = brief.files.find(({ id }) => id === fileId)!;
  if (channelCount === 1 || !accepts(whole.channels, 1)) return [];
  return [{ label: 'mono', choices: { ...choices, isMono: true } }];
}

function shorter(seconds: number, { leastSeconds = 0 }: Brief, choices: Choices): Remedy[] {
  return SPARES.map((spare) => Math.floor(seconds * spare * 100) / 100)
    .filter((rounded) => rounded > 0 && rounded >= leastSeconds && rounded < Infinity)
    .map((rounded) => ({
      label: `the first ${plainNumber(rounded, 2)} s`,
      choices: { ...choices, seconds: rounded },
    }));
}
