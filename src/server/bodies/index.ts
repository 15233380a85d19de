import type * as yup from 'yup';
import { sent } from './assignments';
import { called } from './calls';
import { edited } from './edits';
import { announced } from './intakes';
import { looked } from './lookedAt';
import { staged } from './stage';

/** Bodies of requests that may be long, by name: they are read and checked in a thread, each up to so many bytes. */
export const bodies = {
  intakes: { schema: announced, mostBytes: 8 * 2 ** 20 },
  edits: { schema: edited, mostBytes: 8 * 2 ** 20 },
  assignments: { schema: sent, mostBytes: 8 * 2 ** 20 },
  calls: { schema: called, mostBytes: 8 * 2 ** 20 },
  stage: { schema: staged, mostBytes: 4 * 2 ** 20 },
  index: { schema: looked, mostBytes: 12 * 2 ** 20 },
};

export type BodyName = keyof typeof bodies;
export type BodyOf<Name extends BodyName> = yup.InferType<(typeof bodies)[Name]['schema']>;
