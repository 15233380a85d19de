import * as yup from 'yup';
import { BijouError } from '../errors';
import { checkedSettings, filledSettings, writerById } from '../formats/write';
import type { WriterKind } from '../formats/types';
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
 * @throws bad-setting with the path of the field that is wrong.
 */
export function completeBrief(text: BriefText): Brief {
  const checked = validated(text);
  return { ...checked, files: checked.files.map((file, i) => completeFile(file, `files[${i}]`)) };
}

function validated(text: BriefText): BriefText {
  try {
    return briefSchema.validateSync(text, { strict: true });
  } catch (error) {
    if (!(error instanceof yup.ValidationError)) throw error;
    throw wrong(error.path ?? '', error.message);
  }
}

function completeFile(file: BriefTextFile, path: string): BriefFile {
  const writer = at(`${path}.writer`, () => writerById(file.writer));
  at(`${path}.bitDepths`, () => checkDepths(writer, file.bitDepths ?? []));
  for (const rateHz of file.sampleRatesHz) {
    for (const channels of file.channels) {
      at(`${path}.settings`, () => checkedSettings(writer, file.settings, rateHz, channels));
    }
  }
  const { container, codec, extension } = writer;
  const holdsBeyond = writer.holdsBeyond?.(filledSettings(writer, file.settings)) ?? false;
  return { ...file, container, codec, extension, holdsBeyond };
}

function checkDepths({ name, legal }: WriterKind, depths: readonly number[]): void {
  const known = legal.depths?.map(({ bits }) => bits);
  const illegal = depths.find((bits) => !known?.includes(bits));
  if (illegal === undefined) return;
  throw new BijouError(
    'not-legal',
    `${name} has no ${illegal}-bit samples.`,
    known ? `It takes ${known.join(', ')} bits.` : 'Leave the bit depths out.',
  );
}

/** Puts the path of the field to what is wrong with it. */
function at<T>(path: string, work: () => T): T {
  try {
    return work();
  } catch (error) {
    if (!(error instanceof BijouError)) throw error;
    throw wrong(path, error.message, error.hint);
  }
}

function wrong(field: string, message: string, hint = 'Correct the brief.'): BijouError {
  return new BijouError('bad-setting', `That brief cannot be used: ${message}`, hint, { field });
}
