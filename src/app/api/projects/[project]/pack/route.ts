import { answer, whole } from '../../../answer';
import { zipResponse } from '../../../files';

/** The pack as a zip; `?brief=` for one destination only. */
export const GET = answer(async ({ request, params, bijou }) => {
  const briefId = new URL(request.url).searchParams.get('brief');
  return zipResponse(bijou.packs.pack(whole(params['project'], 'project'), briefId));
});
