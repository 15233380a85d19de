import { accepts } from '../../brief/accepted';
import type { Brief, BriefFile } from '../../brief/schema';
import type { Dial } from '../../formats/types';
import { writerById } from '../../formats/write';
import type { Candidate } from './candidate';

/** How many values of an open dial are tried. */
const MOST_VALUES = 5;

/**
 * What a brief allows: of each of its files the setting that it asks for, and where it leaves a bit rate or a quality
 * open, values from all over it. Rate and layout are those that it fixes.
 */
export function allowedBy({ files }: Brief): Candidate[] {
  return files.flatMap(candidatesOf);
}

function candidatesOf(file: BriefFile): Candidate[] {
  const { writer, channels, sampleRatesHz } = file;
  const rates = Array.isArray(sampleRatesHz) ? (sampleRatesHz as readonly number[]) : [];
  const shape = {
    ...(rates.length === 1 && { rateHz: rates[0] }),
    ...(channels?.length === 1 && { channels: channels[0] === 1 ? 'mix' : 'stereo' }),
  } as Pick<Candidate, 'rateHz' | 'channels'>;
  const depths = writerById(writer).legal.depths?.filter(({ bits }) =>
    file.bitDepths?.includes(bits),
  );
  if (depths && depths.length > 0) {
    return depths.map(({ settings }) => ({
      ...shape,
      writer,
      settings: { ...file.settings, ...settings },
    }));
  }
  const base = { ...shape, writer, settings: file.settings };
  const open = openValues(file);
  return open.length === 0 ? [base] : open.map((settings) => ({ ...base, settings }));
}

/** Settings from all over what is open; none where the brief says which one. */
function openValues({ writer, settings, bitRatesKbps }: BriefFile): object[] {
  const { dials } = writerById(writer);
  const dial = dials.find(({ name }) => (bitRatesKbps ? name === 'kbps' : !(name in settings)));
  const isSaid = dials.some(({ name }) => name in settings);
  if (!dial || (isSaid && !bitRatesKbps)) return [];
  const values = dial.values.filter((value) => !bitRatesKbps || accepts(bitRatesKbps, value));
  return spaced(values, dial).map((value) => ({ ...settings, [dial.name]: value }));
}

/** A few of them at equal distances, the usual one among them. */
function spaced(values: readonly number[], { usual }: Dial): number[] {
  if (values.length <= MOST_VALUES) return [...values];
  const step = (values.length - 1) / (MOST_VALUES - 1);
  const some = Array.from({ length: MOST_VALUES }, (_, i) => values[Math.round(i * step)]!);
  const own = values.includes(usual) ? [usual] : [];
  return [...new Set([...some, ...own])].sort((a, b) => a - b);
}
