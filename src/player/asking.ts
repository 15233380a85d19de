import type { ErrorFacts } from '@/core/errors';

/** An error that the server explained. */
export class ApiError extends Error {
  constructor(readonly facts: ErrorFacts) {
    super(facts.message);
  }
}

const OFFLINE: ErrorFacts = {
  code: 'internal',
  message: 'Bijou does not answer.',
  hint: 'Check that it is still running, then try again.',
};

/** Browsers carry out only small requests after their page was left. */
const MOST_KEPT_ALIVE = 30_000;

interface Asking {
  method?: string;
  /** Is sent as JSON. */
  data?: unknown;
  /** Is sent as it is. */
  file?: Blob;
  signal?: AbortSignal | undefined;
}

/**
 * Asks the server; whatever it answers is good news.
 * @throws ApiError with what the server says, or that it says nothing; as `fetch` when `signal` ended it
 */
export async function askServer(
  address: string,
  { method = 'GET', data, file, signal }: Asking = {},
): Promise<Response> {
  const body = JSON.stringify(data) as string | undefined;
  const response = await fetch(address, {
    method,
    ...(signal && { signal }),
    ...(file && { body: file }),
    ...(body !== undefined && {
      body,
      // What was decided is carried out, even if the page is left at once.
      keepalive: !signal && body.length < MOST_KEPT_ALIVE,
      headers: { 'Content-Type': 'application/json' },
    }),
  }).catch((error: unknown) => {
    if (signal?.aborted) throw error;
    throw new ApiError(OFFLINE);
  });
  if (response.ok) return response;
  const answer = (await response.json().catch(() => ({}))) as { error?: ErrorFacts };
  throw new ApiError(answer.error ?? OFFLINE);
}

/** Asks for a long row of numbers of 32 bits. @throws as `askServer` */
export async function askNumbers(address: string, asking?: Asking): Promise<Float32Array> {
  return new Float32Array(await (await askServer(address, asking)).arrayBuffer());
}
