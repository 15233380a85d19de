import * as yup from 'yup';
import type { StepField } from '../types';

type Options = Extract<StepField, { type: 'choice' }>['options'];

/** A parameter that is one of the keys of `of`. */
export function oneOfKeys<Key extends string>(of: Readonly<Record<Key, unknown>>) {
  return yup.mixed<Key>().oneOf(Object.keys(of) as Key[]);
}

/** The same keys to choose from, with what each is called. */
export function optionsOf<Value>(
  of: Readonly<Record<string, Value>>,
  label: (value: Value) => string,
): Options {
  return Object.entries(of).map(([value, named]) => ({ value, label: label(named) }));
}
