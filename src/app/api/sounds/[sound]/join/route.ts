import { answer, body, whole } from '../../../answer';
import { revisionField } from '../../../fields';
import { joinSchema } from '../../../joinSchema';

/** Changes which sounds a joined sound is made of. */
export const PUT = answer(async ({ request, params, bijou }) => {
  const { revision, ...join } = await body(request, joinSchema.shape({ revision: revisionField }));
  return bijou.joins.setJoin(whole(params['sound'], 'sound'), join, revision);
});
