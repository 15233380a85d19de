import * as yup from 'yup';
import { answer, body, whole } from '../../../../../answer';

const schema = yup
  .object({
    text: yup.string().max(16_000_000).defined(),
    /** Its calls take the place of those that are here. */
    takeOver: yup.boolean().optional(),
  })
  .noUnknown();

/** Looks at an index from elsewhere: what is wrong in it, what would mend it, and which files it names. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { text, takeOver } = await body(request, schema);
  const [project, brief] = [whole(params['project'], 'project'), params['brief'] ?? ''];
  return takeOver
    ? bijou.layouts.takeOver(project, brief, text)
    : bijou.layouts.doctor(project, brief, text);
});
