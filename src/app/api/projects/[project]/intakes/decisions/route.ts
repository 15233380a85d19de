import * as yup from 'yup';
import type { Decision } from '@/server/services/intakes';
import { answer, body, whole } from '../../../../answer';
import { MOST_SOUNDS } from '../../../../fields';

const decisions: Decision[] = ['replace', 'add', 'keep', 'unpack'];
const schema = yup
  .object({
    arrivals: yup.array(yup.number().integer().required()).max(MOST_SOUNDS).required(),
    decision: yup.mixed<Decision>().oneOf(decisions).required(),
  })
  .noUnknown();

/** Decides about files that differ from what is here, or archives inside archives. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { arrivals, decision } = await body(request, schema);
  await bijou.intakes.decide(whole(params['project'], 'project'), arrivals, decision);
});
