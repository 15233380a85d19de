import { whole } from './answer';

/** The span that a request for samples asks for, in frames. */
export function pcmSpan(request: Request) {
  const query = new URL(request.url).searchParams;
  return {
    query,
    start: whole(query.get('start'), 'start'),
    frames: whole(query.get('frames'), 'frames'),
  };
}

/** Interleaved float32 samples, with rate and channels in the headers. */
export function pcmResponse({
  rateHz,
  channels,
  bytes,
}: {
  rateHz: number;
  channels: number;
  bytes: Buffer<ArrayBuffer>;
}): Response {
  return new Response(bytes, {
    headers: {
      'Content-Type': 'application/octet-stream',
      'X-Rate-Hz': String(rateHz),
      'X-Channels': String(channels),
      'Cache-Control': 'no-store',
    },
  });
}
