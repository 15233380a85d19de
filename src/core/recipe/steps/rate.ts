import * as yup from 'yup';
import { HIGHEST_HZ, LOWEST_HZ } from '../../pcm/rates';

export interface RateParams {
  rateHz: number;
}

export const rateParams = yup.object({
  rateHz: yup.number().integer().min(LOWEST_HZ).max(HIGHEST_HZ).required(),
});
