import * as yup from 'yup';
import { BijouError } from '@/core/errors';
import { isNestedTooDeep } from '@/core/nesting';

/**
 * Reads the JSON of a request and holds it against a schema.
 * @throws bad-setting that names the field
 */
export function readBody<T>(text: string, schema: yup.Schema<T>): T {
  try {
    if (isNestedTooDeep(text)) throw tooDeep();
    return schema.validateSync(JSON.parse(text), { strict: true });
  } catch (error) {
    if (error instanceof BijouError) throw error;
    const isInvalid = error instanceof yup.ValidationError;
    throw new BijouError(
      'bad-setting',
      isInvalid ? `${shortened(error.message)}.` : 'The request is not valid JSON.',
      'Correct it and try again.',
      isInvalid && error.path ? { field: error.path } : {},
    );
  }
}

/** A message may hold the value that it is about. */
const LONGEST = 400;
const shortened = (message: string) =>
  message.length > LONGEST ? `${message.slice(0, LONGEST)} …` : message;

function tooDeep(): BijouError {
  return new BijouError(
    'bad-setting',
    'The request is nested too deep.',
    'Correct it and try again.',
  );
}
