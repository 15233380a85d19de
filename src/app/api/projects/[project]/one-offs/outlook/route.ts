import { answer, body, whole } from '../../../../answer';
import { conversionSchema } from '../../../../fields';

/** What would become of sounds, without anything being made. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { sounds, wish } = await body(request, conversionSchema);
  return bijou.oneOffs.outlook(whole(params['project'], 'project'), sounds, wish);
});
