import { answer, largeBody, whole } from '../../../../../answer';

/** Keeps what was set on the filter stage, for the list that goes with the next pack. */
export const PUT = answer(async ({ request, params, bijou }) => {
  const { stage } = await largeBody(request, bijou, 'stage');
  return bijou.layouts.setStage(whole(params['project'], 'project'), params['brief'] ?? '', stage);
});
