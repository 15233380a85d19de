import * as yup from 'yup';
import { answer, body } from '../answer';
import { rate } from '../fields';

const schema = yup
  .object({
    name: yup.string().trim().min(1).max(200).required(),
    recipe: yup.mixed().required(),
    rateHz: rate().required(),
  })
  .noUnknown();

/** Recipes that were saved under a name. */
export const GET = answer(async ({ bijou }) => bijou.shaping.saved());

/** Saves a recipe; under a name that is there already it takes the old one's place. */
export const POST = answer(async ({ request, bijou }) => {
  const { name, recipe, rateHz } = await body(request, schema);
  return bijou.shaping.save(name, recipe, rateHz);
});
