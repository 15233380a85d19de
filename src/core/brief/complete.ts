import * as yup from 'yup';
import { BijouError } from '../errors';
import { holdsRate, isSpan as isRateSpan, usualRates } from '../formats/rates';
import { checkedSettings, filledSettings, writerById } from '../formats/write';
import type { WriterKind } from '../formats/types';
import { isSpan } from './accepted';
import { refuseContradictions } from './contradictions';
import { at, wrong } from './problems';
import {
  briefSchema,
  type Brief,
  type BriefFile,
  type BriefText,
  type BriefTextFile,
} from './schema';

/**
 * A brief as it is used: what its writers know (container, codec, ending) is put to what it says, and what
 * it demands is held against what they can make.
 * @throws bad-setting with the path of the field that is wrong, and the nearest that is legal.
 */
export function completeBrief(text: BriefText): Brief {
  const checked = validated(text);
  const brief = {
    ...checked,
    files: checked.files.map((file, i) => completeFile(file, `files[${i}]`)),
  };
  refuseContradictions(brief);
  return brief;
}

function validated(text: BriefText): BriefText {
  try {
    return briefSchema.validateSync(withUsual(text), { strict: true });
  } catch (error) {
    if (!(error instanceof yup.ValidationError)) throw error;
    const path = error.path ?? '';
    // Its sentences begin with the path.
    throw wrong(
      path,
      error.message.startsWith(path) ? `it${error.message.slice(path.length)}` : error.message,
    );
  }
}

/** What may be left out and has a usual value has that from here on: nobody behind this asks whether it is there. */
function withUsual(text: unknown): unknown {
  return typeof text === 'object' && text !== null && !Array.isArray(text)
    ? { notes: [], ...text }
    : text;
}

function completeFile(file: BriefTextFile, path: string): BriefFile {
  const writer = at(`${path}.writer`, () => writerById(file.writer));
  (file.alsoTakes ?? []).forEach((id, i) => at(`${path}.alsoTakes[${i}]`, () => writerById(id)));
  at(`${path}.bitDepths`, () => checkDepths(writer, file.bitDepths ?? []));
  at(`${path}.settings`, () => checkCombinations(writer, file));
  const { container, codec } = writer;
  const extension = file.ending ?? writer.extension;
  const holdsBeyond = writer.holdsBeyond?.(filledSettings(writer, file.settings)) ?? false;
  return { ...file, container, codec, extension, holdsBeyond };
}

/** Of what is listed everything has to be legal; of what is left open something. */
function checkCombinations(writer: WriterKind, file: BriefTextFile): void {
  const { sampleRatesHz, settings } = file;
  filledSettings(writer, settings);
  const channels = file.channels ?? writer.legal.channels.slice(0, 2);
  if (sampleRatesHz && !isSpan(sampleRatesHz)) {
    for (const rateHz of sampleRatesHz) {
      for (const count of channels) checkedSettings(writer, settings, rateHz, count);
    }
    return;
  }
  const rates = offeredRates(writer, file);
  if (rates.length === 0) {
    const [from, to] = sampleRatesHz ? [sampleRatesHz.from, sampleRatesHz.to] : [0, 0];
    // Refuses the lower end of the span with the nearest rate that there is.
    checkedSettings(writer, settings, from, channels[0]!);
    checkedSettings(writer, settings, to, channels[0]!);
  }
  let refusal: unknown;
  for (const rateHz of rates) {
    try {
      for (const count of channels) checkedSettings(writer, settings, rateHz, count);
      return;
    } catch (error) {
      refusal ??= error;
    }
  }
  throw refusal;
}

/** Rates that a file may have where they are not listed, in rising order: usual ones, and the ends of a span. */
export function offeredRates(writer: WriterKind, { sampleRatesHz }: BriefTextFile): number[] {
  const span = sampleRatesHz && isSpan(sampleRatesHz) ? sampleRatesHz : { from: 0, to: Infinity };
  const { rates } = writer.legal;
  const known = isRateSpan(rates)
    ? [...usualRates, span.from, span.to].filter((hz) => holdsRate(rates, hz))
    : rates;
  return [...new Set(known)].filter((hz) => hz >= span.from && hz <= span.to).sort((a, b) => a - b);
}

function checkDepths(writer: WriterKind, depths: readonly number[]): void {
  const known = writer.legal.depths?.map(({ bits }) => bits);
  const illegal = depths.find((bits) => !known?.includes(bits));
  if (illegal === undefined) return;
  throw new BijouError(
    'not-legal',
    `${writer.name} has no ${illegal}-bit samples.`,
    known ? `It takes ${known.join(', ')} bits.` : 'Leave the bit depths out.',
  );
}
