import { BijouError } from '@/core/errors';
import { answer, whole } from '../../../answer';

const kinds = {
  csv: { type: 'text/csv; charset=utf-8' },
  json: { type: 'application/json' },
} as const;

/** The figures of a run as a file: `?as=csv` or `?as=json`. */
export const GET = answer(async ({ request, params, bijou }) => {
  const as = new URL(request.url).searchParams.get('as') ?? 'csv';
  if (as !== 'csv' && as !== 'json') {
    throw new BijouError(
      'bad-setting',
      `There is no file of the kind "${as}".`,
      'Ask for csv or json.',
    );
  }
  const { name, text } = bijou.comparisons.exported(whole(params['comparison'], 'comparison'), as);
  return new Response(text, {
    headers: {
      'Content-Type': kinds[as].type,
      'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}`,
      'Cache-Control': 'no-store',
    },
  });
});
