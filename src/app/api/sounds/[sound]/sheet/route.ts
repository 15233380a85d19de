import papaparse from 'papaparse';
import { safeFileName } from '@/core/pack/names';
import { answer, whole } from '../../../answer';

/** Where each part of a joined sound begins and how long it is: JSON, or CSV with `format=csv`. */
export const GET = answer(async ({ request, params, bijou }) => {
  const sheet = bijou.joins.sheet(whole(params['sound'], 'sound'));
  const isCsv = new URL(request.url).searchParams.get('format') === 'csv';
  const text = isCsv ? csvOf(sheet) : JSON.stringify(sheet, null, 2);
  const file = encodeURIComponent(`${safeFileName(sheet.name)}.${isCsv ? 'csv' : 'json'}`);
  return new Response(text, {
    headers: {
      'Content-Type': isCsv ? 'text/csv; charset=utf-8' : 'application/json; charset=utf-8',
      'Content-Disposition': `attachment; filename*=UTF-8''${file}`,
      'Cache-Control': 'no-store',
    },
  });
});

function csvOf({ sounds }: { sounds: object[] }): string {
  return papaparse.unparse(sounds, { newline: '\r\n', escapeFormulae: true });
}
