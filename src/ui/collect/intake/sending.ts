import { create } from 'zustand';
import type { Arrival } from '@/wire';
import { call } from '../../shared/api';
import { stash, stashed, unstash } from './stash';

/** A file with the folders that it was brought in with. */
export interface Brought {
  path: string;
  file: File;
}

/** An announced file that is being sent, or waits for its turn. */
interface Queued extends Brought {
  arrivalId: number;
  projectId: number;
  /** Describes samples without a header. */
  raw?: string;
}

interface Sending {
  /** Being sent now, with what has gone out of each. */
  current: { arrivalId: number; path: string; bytes: number; sent: number }[];
  files: { done: number; of: number };
  bytes: { done: number; of: number };
  /** The server does not answer: these wait for somebody to try again. */
  stalled: number;
}

const nothing: Sending = {
  current: [],
  files: { done: 0, of: 0 },
  bytes: { done: 0, of: 0 },
  stalled: 0,
};

/** What is on its way to the server. What became of it is the server's to say. */
export const useSending = create<Sending>(() => nothing);

/** One for each thread that reads, and one that is on its way meanwhile. */
const AT_ONCE = 3;
const queue: Queued[] = [];
const requests = new Map<number, XMLHttpRequest>();
const stalled: Queued[] = [];
/** Files of this visit by arrival: what failed may be sent again, also with a description. */
const kept = new Map<number, Queued>();

/** Whether the file of an arrival is still at hand. */
export function hasFile(arrivalId: number): boolean {
  return kept.has(arrivalId);
}

/** Announces files to the server and sends those that it wants. @throws ApiError */
export async function bringIn(projectId: number, files: readonly Brought[]): Promise<void> {
  const announced = await call<{ id: number; isWanted: boolean }[]>(
    `projects/${projectId}/intakes`,
    'POST',
    { files: files.map(({ path, file }) => ({ path, bytes: file.size })) },
  );
  const wanted = announced.flatMap(({ id, isWanted }, i): Queued[] =>
    isWanted ? [{ ...files[i]!, arrivalId: id, projectId }] : [],
  );
  void stash(new Map(wanted.map((entry) => [entry.arrivalId, entry])));
  enqueue(wanted);
}

/** Sends the file of an arrival once more, as the samples that `raw` describes if it is told. */
export function sendAgain(arrivalId: number, raw?: string): void {
  const file = kept.get(arrivalId);
  if (file) enqueue([{ ...file, ...(raw && { raw }) }]);
}

/** Goes on with what the server did not take. */
export function resume(): void {
  const again = stalled.splice(0);
  if (again.length === 0) return;
  useSending.setState({ stalled: 0 });
  queue.push(...again);
  pump();
}

/** Stops what is being sent and forgets what waits; the server is told by whoever calls this. */
export function cancelSending(): void {
  for (const { arrivalId } of [...queue, ...stalled]) void unstash(arrivalId);
  queue.length = 0;
  stalled.length = 0;
  for (const [id, request] of requests) {
    void unstash(id);
    request.abort();
  }
  useSending.setState(nothing);
}

/** Stops one file, sent or waiting; the others go on. The server is told by whoever calls this. */
export function cancelOne(arrivalId: number): void {
  void unstash(arrivalId);
  const at = queue.findIndex((entry) => entry.arrivalId === arrivalId);
  if (at >= 0) queue.splice(at, 1);
  requests.get(arrivalId)?.abort();
}

/** Tells a page that was reloaded that it was the one that sent. */
const flag = (projectId: number) => `bijou sending ${projectId}`;

/** So long other pages wait for one that is being reloaded to go on itself. */
const GRACE_MS = 5_000;

/**
 * Goes on with files that a reload or a closed page left behind, where the browser kept them. Only one page of
 * a project at a time does so, for as long as it is open.
 */
export async function resumeAfterReload(projectId: number): Promise<void> {
  const name = `bijou sending ${projectId}`;
  const wasSending = sessionStorage.getItem(flag(projectId)) !== null;
  for (;;) {
    let isLost = false;
    const hold = async () => {
      if (!wasSending) await new Promise((over) => setTimeout(over, GRACE_MS));
      if (!isLost) await sendStashed(projectId);
      // For as long as the page is open, or until it is taken away by the page that sent before.
      await new Promise(() => undefined);
    };
    await navigator.locks
      .request(name, wasSending ? { steal: true } : {}, hold)
      .catch(() => undefined);
    isLost = true;
    if (wasSending) return;
  }
}

/** Sends what the browser kept of what the server still waits for. */
async function sendStashed(projectId: number): Promise<void> {
  const files = await stashed();
  const waiting = await call<Arrival[]>(`projects/${projectId}/arrivals`).catch(() => []);
  const found = waiting.flatMap(({ id, path, bytes }): Queued[] => {
    const file = files.get(id);
    files.delete(id);
    const isSame = file?.path === path && file.file.size === bytes;
    return file && isSame && !requests.has(id) && !queue.some((q) => q.arrivalId === id)
      ? [{ ...file, arrivalId: id }]
      : [];
  });
  // What nobody waits for any more would only take up room.
  for (const [id, file] of files) if (file.projectId === projectId) void unstash(id);
  enqueue(found);
}

function enqueue(entries: readonly Queued[]): void {
  if (entries.length === 0) return;
  for (const entry of entries) kept.set(entry.arrivalId, entry);
  sessionStorage.setItem(flag(entries[0]!.projectId), '');
  queue.push(...entries);
  const bytes = entries.reduce((sum, { file }) => sum + file.size, 0);
  useSending.setState(({ files, bytes: sum, current }) => {
    const isFresh = current.length === 0 && files.done === files.of;
    const [doneFiles, doneBytes] = isFresh ? [0, 0] : [files.done, sum.done];
    return {
      files: { done: doneFiles, of: (isFresh ? 0 : files.of) + entries.length },
      bytes: { done: doneBytes, of: (isFresh ? 0 : sum.of) + bytes },
    };
  });
  pump();
}

function pump(): void {
  while (requests.size < AT_ONCE) {
    const next = queue.shift();
    if (!next) break;
    start(next);
  }
  if (requests.size > 0) return;
  for (const { projectId } of kept.values()) sessionStorage.removeItem(flag(projectId));
}

function start(entry: Queued): void {
  const { arrivalId, path, file, raw } = entry;
  // Only XMLHttpRequest tells how much of a body has been sent.
  const request = new XMLHttpRequest();
  requests.set(arrivalId, request);
  useSending.setState(({ current }) => ({
    current: [...current, { arrivalId, path, bytes: file.size, sent: 0 }],
  }));
  const query = raw ? `?${new URLSearchParams({ raw })}` : '';
  request.open('PUT', `/api/arrivals/${arrivalId}${query}`);
  request.upload.onprogress = ({ loaded }) =>
    useSending.setState(({ current }) => ({
      current: current.map((one) => (one.arrivalId === arrivalId ? { ...one, sent: loaded } : one)),
    }));
  let isThrough = true;
  request.onload = () => void unstash(arrivalId);
  request.onerror = () => {
    isThrough = false;
    stalled.push(entry);
    useSending.setState({ stalled: stalled.length });
  };
  request.onloadend = () => {
    requests.delete(arrivalId);
    useSending.setState(({ current, files, bytes }) =>
      files.of === 0
        ? {}
        : {
            current: current.filter((one) => one.arrivalId !== arrivalId),
            ...(isThrough && {
              files: { ...files, done: files.done + 1 },
              bytes: { ...bytes, done: bytes.done + file.size },
            }),
          },
    );
    pump();
  };
  request.setRequestHeader('Content-Type', 'application/octet-stream');
  request.send(file);
}
