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

/** Changes a sound's name or recipe, or takes it out of the project and back in. */
export const PATCH = answer(async ({ request, params, bijou }) => {
  const soundId = whole(params['sound'], 'sound');
  const { name, recipe, removed, revision } = await body(request, schema);
  const { projectId } = bijou.sounds.byId(soundId);
  if (recipe !== undefined) bijou.sounds.setRecipe(soundId, recipe, revision);
  if (name !== undefined) bijou.edits.edit(projectId, [{ soundId, name }], revision);
  if (removed !== undefined) bijou.edits.edit(projectId, [{ soundId, removed }], revision);
  return bijou.sounds.byId(soundId);
});
