import { answer, whole } from '../../../../answer';
import { fileResponse } from '../../../../files';

/**
 * One file of a pack under the path that it has in it or, with `Range`, a part of it. What packs hold may be foreign:
 * nothing of it runs here.
 */
const served = answer(async ({ request, params, bijou }) => {
  const path = params['path'] ?? '';
  const response = await fileResponse(request, (asked) =>
    bijou.packing.file(whole(params['pack'], 'pack'), path, asked),
  );
  response.headers.set('X-Content-Type-Options', 'nosniff');
  response.headers.set('Content-Security-Policy', "sandbox; default-src 'none'");
  return response;
});

export function GET(
  request: Request,
  context: { params: Promise<{ pack: string; path: string[] }> },
): Promise<Response> {
  const params = context.params.then(({ pack, path }) => ({ pack, path: path.join('/') }));
  return served(request, { params });
}
