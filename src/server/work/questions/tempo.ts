import * as yup from 'yup';
import { tempoOf } from '../figures';
import { question } from './question';

/** The tempo that can be heard in it, and how sure that is; null where there is none. */
export const tempo = question({
  told: yup.object({}),
  urgency: () => 2,
  answer: (source, _, tools) => tempoOf(source, tools),
});
