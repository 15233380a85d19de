import * as yup from 'yup';
import type { Gone } from '@/wire';
import { answer, body, whole } from '../../../answer';
import { changeField } from '../../../fields';

const schema = yup
  .object({
    go: yup.string().oneOf(['back', 'forward']).optional(),
    change: changeField,
    /** A change that is to be the last one that is done; 0 for none. */
    to: yup.number().integer().min(0).optional(),
  })
  .noUnknown();

/** Everything that was done to a sound, oldest first. */
export const GET = answer(async ({ params, bijou }) =>
  bijou.edits.historyOf(bijou.sounds.byId(whole(params['sound'], 'sound')).id),
);

/** Undoes the last change of this sound alone, does it again, or goes to any place in its history. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { id } = bijou.sounds.byId(whole(params['sound'], 'sound'));
  const { go, to, change } = await body(request, schema);
  if (to !== undefined) bijou.edits.goTo(id, to);
  const { undoOf, redoOf, nextOf } = bijou.edits;
  const title = go ? (go === 'back' ? undoOf : redoOf)(id, change) : null;
  return { title, ...nextOf(id) } satisfies Gone;
});
