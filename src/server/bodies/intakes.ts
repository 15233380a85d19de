import * as yup from 'yup';

/** Files that are about to be sent. */
export const announced = yup
  .object({
    files: yup
      .array(
        yup
          .object({
            path: yup.string().min(1).max(4_000).required(),
            bytes: yup.number().integer().min(0).required(),
          })
          .noUnknown()
          .required(),
      )
      .required(),
  })
  .noUnknown();
