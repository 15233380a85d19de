import type { Asking, Served } from '@/server/files/serving';

/** A finished file or, with `Range`, a part of it: to be shown, or with `?download` to be saved under its own name. */
export async function fileResponse(
  request: Request,
  read: (asked: Asking) => Promise<Served & { name: string; mimeType: string }>,
): Promise<Response> {
  const { name, mimeType, status, headers, stream } = await read({
    range: request.headers.get('range'),
    ifRange: request.headers.get('if-range'),
    ifNoneMatch: request.headers.get('if-none-match'),
  });
  const how = new URL(request.url).searchParams.has('download') ? 'attachment' : 'inline';
  return new Response(stream, {
    status,
    headers: {
      'Content-Type': mimeType,
      'Content-Disposition': `${how}; filename*=UTF-8''${encodeURIComponent(name)}`,
      'Cache-Control': 'private, no-cache',
      ...headers,
    },
  });
}

/** A zip that is written as it is read. */
export function zipResponse({
  name,
  stream,
}: {
  name: string;
  stream: ReadableStream<Uint8Array>;
}): Response {
  return new Response(stream, {
    headers: {
      'Content-Type': 'application/zip',
      'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}`,
    },
  });
}
