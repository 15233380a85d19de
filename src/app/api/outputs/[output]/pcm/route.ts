import { pcmResponse, pcmSpan } from '../../../pcm';
import { answer, whole } from '../../../answer';

/** Samples of a finished file, as its decoder gave them. */
export const GET = answer(async ({ request, params, bijou }) => {
  const { sha256 } = bijou.packs.output(whole(params['output'], 'output'));
  const { start, frames } = pcmSpan(request);
  const listened = { sha256, signal: request.signal };
  return pcmResponse(await bijou.listening.ask(listened, 'pcm', { start, frames }));
});
