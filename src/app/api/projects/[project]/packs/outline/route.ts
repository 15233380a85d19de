import { answer, whole } from '../../../../answer';

/** A pack as it would be made now of the destinations that `brief` names, with everything that is wrong with it. */
export const GET = answer(async ({ request, params, bijou }) =>
  bijou.packing.outline(
    whole(params['project'], 'project'),
    new URL(request.url).searchParams.getAll('brief'),
  ),
);
