import * as yup from 'yup';
import { PIECE_PATTERN } from '@/core/loop/names';
import { answer, body, whole } from '../../../answer';

const schema = yup
  .object({ pattern: yup.string().trim().min(1).max(200).default(PIECE_PATTERN) })
  .noUnknown();

/** The pieces of a sound's loop as sounds of their own, which follow when it changes. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { pattern } = await body(request, schema);
  return bijou.joins.createPieces(whole(params['sound'], 'sound'), pattern);
});
