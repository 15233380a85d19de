import * as yup from 'yup';

/** Most sounds that one request may name. */
export const MOST_SOUNDS = 50_000;

/** The revision on which a change was made: where sounds were changed since, it is refused. */
export const revisionField = yup.number().integer().min(0).optional();

/** The step of the history that is meant: where it cannot be the next one any more, nothing is done. */
export const changeField = yup.number().integer().min(1).optional();
