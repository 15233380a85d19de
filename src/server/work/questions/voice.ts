import * as yup from 'yup';
import { voiceOf } from '../figures';
import { question } from './question';

/** How likely it is that somebody speaks in it, 0 to 1. */
export const voice = question({
  told: yup.object({}),
  urgency: () => 2,
  answer: (source, _, tools) => voiceOf(source, tools),
});
