import type { APIRequestContext } from '@playwright/test';

interface Sent {
  /** Of the answer; null for a file that is not wanted. */
  status: number | null;
  body: { state: string; soundId?: number; error?: { code: string } };
}

/** Brings files in as a script does: announced together, then sent one by one. */
export async function send(
  request: APIRequestContext,
  project: number,
  files: Readonly<Record<string, Buffer>>,
): Promise<Sent[]> {
  const entries = Object.entries(files);
  const announced = await request.post(`/api/projects/${project}/intakes`, {
    data: { files: entries.map(([path, { length: bytes }]) => ({ path, bytes })) },
  });
  const arrivals = (await announced.json()) as { id: number; isWanted: boolean }[];
  const sent: Sent[] = [];
  for (const [i, { id, isWanted }] of arrivals.entries()) {
    const headers = { 'content-type': 'application/octet-stream' };
    const answer = isWanted
      ? await request.put(`/api/arrivals/${id}`, { data: entries[i]![1], headers })
      : null;
    const body = ((await answer?.json()) ?? { state: 'left-out' }) as Sent['body'];
    sent.push({ status: answer?.status() ?? null, body });
  }
  return sent;
}
