import * as yup from 'yup';
import { MOST_CALLS, MOST_VARIANTS, ways, type Way } from '@/core/pack/calls/calls';
import { callWays, type CallWay } from '@/core/pack/calls/fromNames';
import { answer, body, whole } from '../../../../../answer';

const call = yup
  .object({
    id: yup.string().max(1_000).defined(),
    variants: yup
      .array(
        yup
          .object({
            soundId: yup.number().integer().required(),
            odds: yup.number().required(),
          })
          .noUnknown()
          .required(),
      )
      .max(MOST_VARIANTS)
      .required(),
    levelDb: yup.number().required(),
    pitch: yup.tuple([yup.number().required(), yup.number().required()]).required(),
    read: yup
      .mixed<Way>()
      .oneOf(Object.keys(ways) as Way[])
      .required(),
  })
  .noUnknown();

const schema = yup
  .object({
    /** null for those that names make. What is wrong with them is said where the pack is looked at. */
    calls: yup.array(call.required()).max(MOST_CALLS).nullable().defined(),
  })
  .noUnknown();

/** The calls that names make: `?way=` variants, each or folders. */
export const GET = answer(async ({ request, params, bijou }) => {
  const asked = new URL(request.url).searchParams.get('way');
  const way = (Object.keys(callWays) as CallWay[]).find((one) => one === asked) ?? 'variants';
  const project = whole(params['project'], 'project');
  return bijou.layouts.proposedCalls(project, params['brief'] ?? '', way);
});

/** Sets the calls of a destination's pack. */
export const PUT = answer(async ({ request, params, bijou }) => {
  const { calls } = await body(request, schema);
  return bijou.layouts.setCalls(whole(params['project'], 'project'), params['brief'] ?? '', calls);
});
