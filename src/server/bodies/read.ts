import * as yup from 'yup';
import { BijouError } from '@/core/errors';

/** Nobody nests deeper; whoever walks through it would run out of stack. */
const MOST_DEPTH = 200;

/**
 * Reads the JSON of a request and holds it against a schema.
 * @throws bad-setting that names the field
 */
export function readBody<T>(text: string, schema: yup.Schema<T>): T {
  try {
    refuseDeep(text);
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

function refuseDeep(text: string): void {
  let depth = 0;
  let isInString = false;
  for (let i = 0; i < text.length; i++) {
    const sign = text.charCodeAt(i);
    if (isInString) {
      if (sign === BACKSLASH) i++;
      else if (sign === QUOTE) isInString = false;
    } else if (sign === QUOTE) isInString = true;
    else if (sign === OPEN_LIST || sign === OPEN_OBJECT) {
      if (++depth > MOST_DEPTH) throw tooDeep();
    } else if (sign === CLOSE_LIST || sign === CLOSE_OBJECT) depth--;
  }
}

const [QUOTE, BACKSLASH, OPEN_LIST, CLOSE_LIST, OPEN_OBJECT, CLOSE_OBJECT] = [...'"\\[]{}'].map(
  (sign) => sign.charCodeAt(0),
) as [number, number, number, number, number, number];

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
