import * as yup from 'yup';
import { changedChoices } from '@/core/brief/choices';
import { answer, body, whole } from '../../../../../answer';
import { choicesSchema } from '../../../../../fields';

const schema = yup
  .object({ file: yup.string().max(100).required(), choices: choicesSchema.required() })
  .noUnknown();

/** Makes a file as it would be with other choices, to be heard before they are taken. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { file, choices } = await body(request, schema);
  const sound = bijou.sounds.byId(whole(params['sound'], 'sound'));
  const id = bijou.fitting.tryOut(sound, params['brief'] ?? '', file, changedChoices({}, choices));
  return { id };
});
