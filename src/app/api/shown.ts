import { whole } from './answer';

async function* nothing(): AsyncGenerator<Uint8Array> {}

/** A file that comes as the body of a request, with its name behind `?name=`. */
export function shownFile(request: Request) {
  const length = request.headers.get('content-length');
  const name = new URL(request.url).searchParams.get('name') ?? '';
  return {
    fileName: name.slice(0, MOST_LETTERS) || 'file',
    stream: (request.body as unknown as AsyncIterable<Uint8Array> | null) ?? nothing(),
    bytes: length === null ? null : whole(length, 'content-length'),
  };
}

const MOST_LETTERS = 400;
