import * as yup from 'yup';
import { answer, body, whole } from '../../../../answer';

/** What a field can be set to. */
type FieldValue = string | number | null;

const schema = yup
  .object({
    title: yup.string().max(2_000).nullable().optional(),
    fields: yup
      .mixed<Record<string, FieldValue>>()
      .test('values', '${path} must hold texts and numbers by names', isFields)
      .optional(),
  })
  .noUnknown();

function isFields(value: unknown): boolean {
  if (value === undefined) return true;
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return false;
  const isValue = (one: unknown) =>
    one === null ||
    (typeof one === 'string' && one.length <= 10_000) ||
    (typeof one === 'number' && Number.isFinite(one));
  return Object.keys(value).length <= 50 && Object.values(value).every(isValue);
}

/** Decides about the pack of one destination: its title, and the fields of its layout. */
export const PATCH = answer(async ({ request, params, bijou }) =>
  bijou.layouts.settle(
    whole(params['project'], 'project'),
    params['brief'] ?? '',
    await body(request, schema),
  ),
);
