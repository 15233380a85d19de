import { answer, whole } from '../../../answer';
import { pcmResponse, pcmSpan } from '../../../pcm';

/** Samples of a file that was made to be heard, as its decoder gave them. */
export const GET = answer(async ({ request, params, bijou }) => {
  const { sha256 } = bijou.fitting.finished(whole(params['tryout'], 'tryout'));
  const { start, frames } = pcmSpan(request);
  const listened = { sha256, signal: request.signal };
  return pcmResponse(await bijou.listening.ask(listened, 'pcm', { start, frames }));
});
