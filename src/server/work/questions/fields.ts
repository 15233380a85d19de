import * as yup from 'yup';

/** A frame, or a number of them. */
export const frame = () => yup.number().integer().min(0).required();

/** How many of something. */
export const amount = () => yup.number().integer().min(0).required();
