import { answer, body, whole } from '../../../answer';
import { conversionSchema } from '../../../fields';

/** The newest conversion without a destination; null where there is none. */
export const GET = answer(async ({ params, bijou }) =>
  bijou.oneOffs.latest(whole(params['project'], 'project')),
);

/** Converts sounds without sending them anywhere. Answers the conversion, whose files are made in the background. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { sounds, wish } = await body(request, conversionSchema);
  return bijou.oneOffs.begin(whole(params['project'], 'project'), sounds, wish);
});
