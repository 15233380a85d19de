import { create } from 'zustand';
import type { ErrorFacts } from '@/core/errors';
import { size } from '../shared/format';
import { OFFLINE } from '../shared/api';

/** A file on its way to the server. */
export interface Upload {
  id: number;
  name: string;
  bytes: number;
  sent: number;
  state: 'waiting' | 'sending' | 'added' | 'already' | 'failed';
  /** Name of the sound that has the same bytes. */
  alreadyAs?: string;
  error?: ErrorFacts;
}

export const useUploads = create<{ uploads: Upload[] }>(() => ({ uploads: [] }));

const AT_ONCE = 2;
interface Queued {
  upload: Upload;
  file: File;
  projectId: number;
  onAdded: () => void;
  /** Describes samples without a header. */
  raw: string | undefined;
}

const queue: Queued[] = [];
/** Files of this visit by name: one that could not be read may be sent again with a description. */
const kept = new Map<string, File>();

export function keptFile(name: string): File | undefined {
  return kept.get(name);
}

const sending = new Map<number, XMLHttpRequest>();
let nextId = 1;

function update(id: number, change: Partial<Upload>): void {
  useUploads.setState(({ uploads }) => ({
    uploads: uploads.map((upload) => (upload.id === id ? { ...upload, ...change } : upload)),
  }));
}

/**
 * Sends files one after the other, two at a time. `onAdded` is called after each that became a sound;
 * `raw` describes samples without a header, such as `s16le,44100,2`.
 */
export function send(
  files: readonly File[],
  projectId: number,
  mostBytes: number,
  onAdded: () => void,
  raw?: string,
): void {
  for (const file of files) kept.set(file.name, file);
  const fresh = files.map((file): Upload => {
    const upload: Upload = {
      id: nextId++,
      name: file.name,
      bytes: file.size,
      sent: 0,
      state: 'waiting',
    };
    const error = refusal(file, mostBytes);
    if (error) return { ...upload, state: 'failed', error };
    queue.push({ upload, file, projectId, onAdded, raw });
    return upload;
  });
  useUploads.setState(({ uploads }) => ({
    // What came in well before needs no mention any more; what failed stays until it is read.
    uploads: [...uploads.filter((u) => u.state === 'failed' || isOpen(u)), ...fresh],
  }));
  pump();
}

export function isOpen({ state }: Upload): boolean {
  return state === 'waiting' || state === 'sending';
}

/** Stops what is being sent and forgets what waits. */
export function cancelUploads(): void {
  queue.length = 0;
  for (const request of sending.values()) request.abort();
  useUploads.setState(({ uploads }) => ({ uploads: uploads.filter((upload) => !isOpen(upload)) }));
}

export function dismissUploads(): void {
  useUploads.setState(({ uploads }) => ({ uploads: uploads.filter(isOpen) }));
}

function refusal(file: File, mostBytes: number): ErrorFacts | null {
  if (file.size === 0) {
    return {
      code: 'empty-file',
      message: 'The file is empty: it has 0 bytes.',
      hint: 'Check that it was copied or downloaded to the end.',
    };
  }
  if (file.size > mostBytes) {
    return {
      code: 'too-large',
      message: `The file is larger than the limit of ${size(mostBytes)}.`,
      hint: 'Bring it in in shorter pieces, or raise BIJOU_MAX_BYTES.',
    };
  }
  return null;
}

function pump(): void {
  while (sending.size < AT_ONCE) {
    const next = queue.shift();
    if (!next) return;
    start(next);
  }
}

function start({ upload, file, projectId, onAdded, raw }: Queued): void {
  // Only XMLHttpRequest tells how much of a body has been sent.
  const request = new XMLHttpRequest();
  sending.set(upload.id, request);
  update(upload.id, { state: 'sending' });
  const query = new URLSearchParams({ name: file.name, ...(raw && { raw }) });
  request.open('POST', `/api/projects/${projectId}/sounds?${query}`);
  request.responseType = 'json';
  request.upload.onprogress = ({ loaded }) => update(upload.id, { sent: loaded });
  request.onload = () => {
    const answer = request.response as {
      sound?: { name: string };
      already?: boolean;
      error?: ErrorFacts;
    } | null;
    if (answer?.sound) {
      update(upload.id, {
        sent: upload.bytes,
        ...(answer.already
          ? { state: 'already', alreadyAs: answer.sound.name }
          : { state: 'added' }),
      });
      onAdded();
    } else update(upload.id, { state: 'failed', error: answer?.error ?? OFFLINE });
  };
  request.onerror = () => update(upload.id, { state: 'failed', error: OFFLINE });
  request.onloadend = () => {
    sending.delete(upload.id);
    pump();
  };
  request.setRequestHeader('Content-Type', 'application/octet-stream');
  request.send(file);
}
