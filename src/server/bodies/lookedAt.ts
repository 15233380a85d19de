import * as yup from 'yup';

/** An index from elsewhere. */
export const looked = yup
  .object({
    text: yup.string().max(8_000_000).defined(),
    /** Its calls take the place of those that are here. */
    takeOver: yup.boolean().optional(),
  })
  .noUnknown();
