import { callWays, type CallWay } from '@/core/pack/calls/fromNames';
import { answer, largeBody, whole } from '../../../../../answer';

/** The calls that names make: `?way=` variants, each or folders. */
export const GET = answer(async ({ request, params, bijou }) => {
  const asked = new URL(request.url).searchParams.get('way');
  const way = (Object.keys(callWays) as CallWay[]).find((one) => one === asked) ?? 'variants';
  const project = whole(params['project'], 'project');
  return bijou.layouts.proposedCalls(project, params['brief'] ?? '', way);
});

/** Sets the calls of a destination's pack. */
export const PUT = answer(async ({ request, params, bijou }) => {
  const { calls } = await largeBody(request, bijou, 'calls');
  return bijou.layouts.setCalls(whole(params['project'], 'project'), params['brief'] ?? '', calls);
});
