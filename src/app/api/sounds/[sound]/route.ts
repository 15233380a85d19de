import * as yup from 'yup';
import { answer, body, whole } from '../../answer';
import { revisionField } from '../../fields';

const schema = yup
  .object({
    name: yup.string().trim().min(1).max(200).optional(),
    recipe: yup.mixed().optional(),
    removed: yup.boolean().optional(),
    revision: revisionField,
  })
  .noUnknown();

/** Changes a sound's name or recipe, or takes it out of the project and back in: all of that, or nothing. */
export const PATCH = answer(async ({ request, params, bijou }) => {
  const soundId = whole(params['sound'], 'sound');
  const { revision, ...change } = await body(request, schema);
  return bijou.sounds.change(soundId, change, revision);
});
