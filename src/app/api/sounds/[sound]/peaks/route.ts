import { binary } from '../../../pcm';
import { answer, whole } from '../../../answer';

/**
 * Columns of a waveform picture, as float32: channel by channel, for each column the smallest, the
 * largest and the RMS of its samples.
 */
export const GET = answer(async ({ request, params, bijou }) => {
  const query = new URL(request.url).searchParams;
  const sound = bijou.sounds.byId(whole(params['sound'], 'sound'));
  const columns = await bijou.listening.ask(
    { sha256: sound.sourceSha256, signal: request.signal },
    'peaks',
    {
      start: whole(query.get('start'), 'start'),
      end: whole(query.get('end'), 'end'),
      columns: whole(query.get('columns'), 'columns'),
    },
  );
  // A source never changes, so its pictures may be kept.
  return binary(columns, { 'Cache-Control': 'private, max-age=86400' });
});
