import { pcmResponse, pcmSpan } from '../../../pcm';
import { answer, whole } from '../../../answer';

/** Samples of a sound: of its source, or with `version=shaped` behind its recipe. */
export const GET = answer(async ({ request, params, bijou }) => {
  const sound = bijou.sounds.byId(whole(params['sound'], 'sound'));
  const { start, frames, query } = pcmSpan(request);
  const recipe = query.get('version') === 'shaped' ? sound.recipe : undefined;
  const listened = { sha256: sound.sourceSha256, recipe, signal: request.signal };
  return pcmResponse(await bijou.listening.ask(listened, 'pcm', { start, frames }));
});
