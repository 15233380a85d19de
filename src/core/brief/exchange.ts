import type * as yup from 'yup';
import { BijouError } from '../errors';
import { isNestedTooDeep } from '../nesting';
import { completeBrief } from './complete';
import { briefSchema, SCHEMA, type Brief, type BriefText } from './schema';

/** A larger file is no brief. */
export const MOST_BRIEF_BYTES = 1_000_000;
/** Goes along with briefs for people to read, and is made anew. */
const DERIVED = new Set(['demands']);

/** A brief that came in as a file. */
export interface ReadBrief {
  text: BriefText;
  brief: Brief;
  /** What this Bijou does not know of it: kept, and without effect here. */
  unknown: string[];
}

/** A brief as its file holds it: with the form that it is written in. */
export function briefFile(text: BriefText): BriefText {
  return { schema: SCHEMA, ...text };
}

/**
 * Reads the file of a brief: one JSON object, or an array with just one.
 * @throws too-large, bad-setting with the path of the field that is wrong
 */
export function readBriefFile(text: string): ReadBrief {
  if (text.length > MOST_BRIEF_BYTES || isNestedTooDeep(text)) throw tooLarge();
  const data = parsed(text);
  const only: unknown = Array.isArray(data) && data.length === 1 ? data[0] : data;
  if (typeof only !== 'object' || only === null || Array.isArray(only)) throw noBrief();
  const kept = Object.fromEntries(Object.entries(only).filter(([key]) => !DERIVED.has(key)));
  const brief = completeBrief(kept as BriefText);
  return { text: kept as BriefText, brief, unknown: unknownFields(briefSchema, kept, '') };
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch (error) {
    const where = error instanceof Error ? error.message : '';
    throw new BijouError(
      'bad-setting',
      `The brief is no JSON: ${where}.`,
      'Look for a comma or a quotation mark that is missing or too many.',
    );
  }
}

/** What is said of fields that are kept without being understood. */
export function unknownText(unknown: readonly string[]): string {
  const [verb, it] = unknown.length === 1 ? ['is', 'it'] : ['are', 'they'];
  return (
    `${unknown.join(', ')} ${verb} not known to this Bijou: ${it} ${unknown.length === 1 ? 'is' : 'are'} kept, ` +
    'and change nothing here.'
  );
}

/** The paths of fields that a schema has no place for. */
function unknownFields(schema: yup.ISchema<unknown>, value: unknown, path: string): string[] {
  const known = schema as {
    fields?: Record<string, yup.ISchema<unknown>>;
    innerType?: yup.ISchema<unknown>;
  };
  if (Array.isArray(value)) {
    const { innerType } = known;
    return innerType
      ? value.flatMap((one, i) => unknownFields(innerType, one, `${path}[${i}]`))
      : [];
  }
  if (typeof value !== 'object' || value === null || !known.fields) return [];
  // What has no fields of its own to check holds whatever its owner allows.
  if (Object.keys(known.fields).length === 0) return [];
  return Object.entries(value).flatMap(([key, inner]) => {
    const at = path === '' ? key : `${path}.${key}`;
    // Whatever all objects have is no field of a brief.
    const field = Object.hasOwn(known.fields!, key) ? known.fields![key] : undefined;
    return field ? unknownFields(field, inner, at) : [at];
  });
}

function tooLarge(): BijouError {
  return new BijouError(
    'too-large',
    'The file is much too large for a brief.',
    'A brief is a small JSON file, as Bijou writes it.',
  );
}

function noBrief(): BijouError {
  return new BijouError(
    'bad-setting',
    'The file holds no brief.',
    'A brief is one JSON object with id, title and files.',
  );
}
