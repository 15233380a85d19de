import { answer, whole } from '../../../answer';
import { pcmResponse, pcmSpan } from '../../../pcm';

/** Samples of one side of a trial, both at the rate and with the channels at which they are compared. */
export const GET = answer(async ({ request, params, bijou }) => {
  const { query, start, frames } = pcmSpan(request);
  const trial = whole(params['trial'], 'trial');
  const listened = bijou.comparisons.side(trial, query.get('side') === 'source');
  const asked = { ...listened, signal: request.signal };
  return pcmResponse(await bijou.listening.ask(asked, 'pcm', { start, frames }));
});
