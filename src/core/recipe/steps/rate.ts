import * as yup from 'yup';

/** Rates that sound can have. */
export const LOWEST_HZ = 1_000;
const HIGHEST_HZ = 768_000;

export interface RateParams {
  rateHz: number;
}

export const rateParams = yup.object({
  rateHz: yup.number().integer().min(LOWEST_HZ).max(HIGHEST_HZ).required(),
});
