import { BijouError } from '../errors';

/** Puts the path of the field to what is wrong with it. */
export function at<T>(path: string, work: () => T): T {
  try {
    return work();
  } catch (error) {
    if (!(error instanceof BijouError)) throw error;
    throw wrong(path, error.message, error.hint);
  }
}

/** A brief that cannot be used, with the path of the field and what would do. */
export function wrong(field: string, message: string, hint = 'Correct the brief.'): BijouError {
  const where = field === '' ? '' : `, at ${field}`;
  const said = /[.!?]$/.test(message) ? message : `${message}.`;
  return new BijouError('bad-setting', `That brief cannot be used${where}: ${said}`, hint, {
    field,
  });
}
