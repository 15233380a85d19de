import * as yup from 'yup';
import { answer, body, whole } from '../../../answer';
import { MOST_SOUNDS, rate, revisionField } from '../../../fields';

const schema = yup
  .object({
    sounds: yup.array(yup.number().integer().required()).min(1).max(MOST_SOUNDS).required(),
    recipe: yup.mixed().required(),
    rateHz: rate().required(),
    mode: yup.mixed<'behind' | 'instead'>().oneOf(['behind', 'instead']).required(),
    name: yup.string().trim().min(1).max(200).optional(),
    revision: revisionField,
  })
  .noUnknown();

/** Gives a recipe to many sounds in one change. Answers those that cannot take it. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { sounds, recipe, ...how } = await body(request, schema);
  const projectId = whole(params['project'], 'project');
  return bijou.shaping.apply(projectId, sounds, { ...how, recipe });
});
