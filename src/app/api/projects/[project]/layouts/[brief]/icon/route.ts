import { BijouError } from '@/core/errors';
import { MOST_ICON_BYTES } from '@/core/pack/icon/check';
import { answer, whole } from '../../../../../answer';

/** The icon of a destination's pack, as it was given or is drawn. */
export const GET = answer(async ({ params, bijou }) => {
  const icon = await bijou.layouts.icon(whole(params['project'], 'project'), params['brief'] ?? '');
  return new Response(new Uint8Array(icon), {
    headers: {
      'Content-Type': 'image/png',
      'Cache-Control': 'no-store',
      'X-Content-Type-Options': 'nosniff',
    },
  });
});

/** Takes an icon: a square PNG of a size that the layout takes. */
export const PUT = answer(async ({ request, params, bijou }) =>
  bijou.layouts.setIcon(
    whole(params['project'], 'project'),
    params['brief'] ?? '',
    await bytesOf(request),
  ),
);

/** Has it drawn of the title again. */
export const DELETE = answer(async ({ params, bijou }) =>
  bijou.layouts.setIcon(whole(params['project'], 'project'), params['brief'] ?? '', null),
);

async function bytesOf(request: Request): Promise<Uint8Array> {
  const pieces: Uint8Array[] = [];
  let bytes = 0;
  for await (const piece of (request.body as unknown as AsyncIterable<Uint8Array> | null) ?? []) {
    bytes += piece.length;
    if (bytes > MOST_ICON_BYTES) {
      throw new BijouError('too-large', 'The icon is too large.', 'Save it smaller.');
    }
    pieces.push(piece);
  }
  return Buffer.concat(pieces);
}
