import type { Heard } from '@/server/work/questions/pcm';
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
export function pcmResponse({ rateHz, channels, samples }: Heard): Response {
  return binary(samples, { 'X-Rate-Hz': String(rateHz), 'X-Channels': String(channels) });
}

/** An answer about a sound as it travels: samples and other long rows of numbers as bytes, all else as it is. */
export function numbers(found: unknown): unknown {
  if (found instanceof Float32Array || found instanceof Uint8Array) return binary(found);
  const isHeard = typeof found === 'object' && found !== null && 'samples' in found;
  return isHeard ? pcmResponse(found as Heard) : found;
}

/** Numbers as they lie in memory, little-endian. */
export function binary(
  numbers: Float32Array | Uint8Array,
  headers: Record<string, string> = {},
): Response {
  const bytes = new Uint8Array(numbers.buffer, numbers.byteOffset, numbers.byteLength);
  return new Response(bytes as Uint8Array<ArrayBuffer>, {
    headers: {
      'Content-Type': 'application/octet-stream',
      'Cache-Control': 'no-store',
      ...headers,
    },
  });
}
