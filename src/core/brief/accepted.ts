import * as yup from 'yup';

/** From one value to another, both taken. */
export interface Span {
  from: number;
  to: number;
}

/** Values that a demand takes: those of a list, the preferred one first, or all of a span. */
export type Accepted = readonly number[] | Span;

/** How far a demand binds: one value, several, a span of them, or whatever the source has. */
export type Freedom = 'fixed' | 'list' | 'range' | 'free';

export function isSpan(wanted: Accepted): wanted is Span {
  return !Array.isArray(wanted);
}

/** What is not demanded is free. */
export function accepts(wanted: Accepted | undefined, value: number): boolean {
  if (!wanted) return true;
  return isSpan(wanted) ? value >= wanted.from && value <= wanted.to : wanted.includes(value);
}

export function freedomOf(wanted: Accepted | undefined): Freedom {
  if (!wanted) return 'free';
  if (isSpan(wanted)) return 'range';
  return wanted.length === 1 ? 'fixed' : 'list';
}

/** A demand as it is written: a list of values, or `{ "from": …, "to": … }`; left out where anything will do. */
export function acceptedValues(value: yup.NumberSchema<number>) {
  const list = yup.array(value).min(1).max(100).required();
  const span = yup
    .object({ from: value, to: value })
    .test('rising', '${path} must not end below its beginning', ({ from, to }) => from <= to);
  return yup.lazy((given: Accepted | undefined) =>
    given === undefined ? yup.mixed<Accepted>().optional() : Array.isArray(given) ? list : span,
  );
}
