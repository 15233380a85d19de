import { pcmResponse, pcmSpan } from '../../../pcm';
import { answer, whole } from '../../../answer';

/** Samples of a finished file, as its decoder gave them. */
export const GET = answer(async ({ request, params, bijou }) => {
  const { sha256 } = bijou.packs.output(whole(params['output'], 'output'));
  const { start, frames } = pcmSpan(request);
  return pcmResponse(
    await bijou.listening.samples({ sha256, signal: request.signal }, start, frames),
  );
});
