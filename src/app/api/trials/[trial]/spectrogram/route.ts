import { answer, whole } from '../../../answer';
import { binary } from '../../../pcm';

/** A picture of one side of a trial: a byte for each row of each column. */
export const GET = answer(async ({ request, params, bijou }) => {
  const query = new URL(request.url).searchParams;
  const number = (name: string) => whole(query.get(name), name);
  const trial = whole(params['trial'], 'trial');
  const listened = bijou.comparisons.side(trial, query.get('side') === 'source');
  const picture = await bijou.listening.ask(
    { ...listened, signal: request.signal },
    'spectrogram',
    {
      startFrame: number('start'),
      endFrame: number('end'),
      columns: number('columns'),
      rows: number('rows'),
    },
  );
  return binary(picture);
});
