import { answer, largeBody, whole } from '../../../answer';

/** Sends many sounds to destinations, with choices that hold for all of them, or no more: one step of the history. */
export const POST = answer(async ({ request, params, bijou }) => {
  const { release, choices, sounds, briefs, pairs } = await largeBody(
    request,
    bijou,
    'assignments',
  );
  const sending = pairs ? { pairs } : { sounds: sounds!, briefs: briefs! };
  const project = whole(params['project'], 'project');
  return release
    ? bijou.packs.release(project, sending)
    : bijou.packs.send(project, sending, choices);
});
