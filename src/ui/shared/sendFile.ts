import { askServer } from '@/player/asking';

/** Sends a file as it is, with its name behind `?name=`, and gives back the server's JSON. @throws ApiError */
export async function sendFile<T>(
  path: string,
  file: File,
  more: Readonly<Record<string, string>> = {},
): Promise<T> {
  const query = new URLSearchParams({ name: file.name, ...more });
  const response = await askServer(`/api/${path}?${query}`, { method: 'POST', file });
  return (await response.json()) as T;
}
