import { parseRaw } from '@/core/formats/raw/reader';
import { answer, whole } from '../../answer';

async function* nothing(): AsyncGenerator<Uint8Array> {}

/** Takes in the bytes of an announced file; `raw` describes one without a header. */
export const PUT = answer(async ({ request, params, bijou }) => {
  const raw = new URL(request.url).searchParams.get('raw');
  const length = request.headers.get('content-length');
  return bijou.intakes.receive(
    whole(params['arrival'], 'arrival'),
    (request.body as unknown as AsyncIterable<Uint8Array> | null) ?? nothing(),
    length === null ? null : whole(length, 'content-length'),
    raw === null ? null : parseRaw(raw),
  );
});

/** The file will not come. */
export const DELETE = answer(async ({ params, bijou }) =>
  bijou.intakes.cancelOne(whole(params['arrival'], 'arrival')),
);
