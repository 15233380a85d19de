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

/** Calls the server and gives back its JSON. @throws ApiError */
export async function call<T>(
  path: string,
  method = 'GET',
  data?: unknown,
  signal?: AbortSignal,
): Promise<T> {
  const body = JSON.stringify(data);
  const response = await fetch(`/api/${path}`, {
    method,
    ...(signal && { signal }),
    ...(body !== undefined && {
      body,
      // What was decided is carried out, even if the page is left at once.
      keepalive: !signal && body.length < MOST_KEPT_ALIVE,
      headers: { 'Content-Type': 'application/json' },
    }),
  }).catch(() => {
    throw new ApiError(OFFLINE);
  });
  const answer: unknown = await response.json().catch(() => ({ error: OFFLINE }));
  if (!response.ok) throw new ApiError((answer as { error: ErrorFacts }).error);
  return answer as T;
}
