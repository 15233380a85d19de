import { answer, whole } from '../../../answer';

/** Columns of a waveform picture: per channel `[min, max, rms, min, max, rms, …]`. */
export const GET = answer(async ({ request, params, bijou }) => {
  const query = new URL(request.url).searchParams;
  const sound = bijou.sounds.byId(whole(params['sound'], 'sound'));
  const columns = await bijou.listening.columns(
    sound.sourceSha256,
    whole(query.get('start'), 'start'),
    whole(query.get('end'), 'end'),
    whole(query.get('columns'), 'columns'),
  );
  const short = (x: number) => Math.round(x * 1e5) / 1e5;
  const channels = columns.map((channel) =>
    channel.flatMap(({ min, max, rms }) => [short(min), short(max), short(rms)]),
  );
  // A source never changes, so its pictures may be kept.
  return Response.json(channels, { headers: { 'Cache-Control': 'private, max-age=86400' } });
});
