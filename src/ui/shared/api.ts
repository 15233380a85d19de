import { askServer } from '@/player/asking';

export { ApiError } from '@/player/asking';

/** Calls the server and gives back its JSON. @throws ApiError */
export async function call<T>(
  path: string,
  method = 'GET',
  data?: unknown,
  signal?: AbortSignal,
): Promise<T> {
  const response = await askServer(`/api/${path}`, { method, data, signal });
  return (await response.json()) as T;
}
