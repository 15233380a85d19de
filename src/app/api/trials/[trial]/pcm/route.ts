import { answer, whole } from '../../../answer';
import { pcmResponse, pcmSpan } from '../../../pcm';

/** Samples of a candidate's file, as its decoder gave them. */
export const GET = answer(async ({ request, params, bijou }) => {
  const { sha256 } = bijou.comparisons.trialFile(whole(params['trial'], 'trial'));
  const { start, frames } = pcmSpan(request);
  const listened = { sha256, signal: request.signal };
  return pcmResponse(await bijou.listening.ask(listened, 'pcm', { start, frames }));
});
