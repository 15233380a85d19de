import { destinationsBySound } from '@/core/brief/catalogue';
import { tableRow } from '@/core/collect/columns';
import { tableCsv, tableRecords } from '@/core/collect/table';
import { answer, whole } from '../../../answer';

/** The table of all sounds as JSON, or with `?as=csv` as CSV. */
export const GET = answer(async ({ request, params, bijou }) => {
  const { sounds, cells, briefs } = bijou.projectState(whole(params['project'], 'project'));
  const destinations = destinationsBySound(cells, briefs);
  const rows = sounds
    .filter(({ state }) => state === 'ready')
    .map((sound) => tableRow(sound, destinations.get(sound.id) ?? []));
  if (new URL(request.url).searchParams.get('as') !== 'csv') return tableRecords(rows);
  return new Response(tableCsv(rows), { headers: { 'Content-Type': 'text/csv; charset=utf-8' } });
});
