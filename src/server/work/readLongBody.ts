import type * as yup from 'yup';
import { bodies } from '../bodies';
import { readBody } from '../bodies/read';
import type { BodyTask } from './tasks';

/** Reads a long body of a request. */
export async function readLongBody({ name, bytes }: BodyTask): Promise<unknown> {
  return readBody(Buffer.from(bytes).toString('utf8'), bodies[name].schema as yup.Schema);
}
