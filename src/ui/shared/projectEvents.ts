import type { ProjectEvent } from '@/wire';

/** What a window hears of a project: its events, and that anything may have happened before now. */
type Heard = ProjectEvent | { kind: 'opened' };

const AGAIN_MS = 1_000;

/**
 * Hears the events of a project until the answer is called. All windows of a browser share one connection,
 * for it opens only six to a server: one of them listens and tells the others.
 */
export function hearProject(projectId: number, hear: (heard: Heard) => void): () => void {
  const name = `bijou project ${projectId}`;
  const ending = new AbortController();
  const windows = new BroadcastChannel(name);
  windows.onmessage = ({ data }: MessageEvent<Heard>) => hear(data);
  const listen = () => {
    const tell = (heard: Heard) => {
      hear(heard);
      windows.postMessage(heard);
    };
    let events: EventSource;
    let again: ReturnType<typeof setTimeout> | undefined;
    const connect = () => {
      events = new EventSource(`/api/projects/${projectId}/events`);
      events.onopen = () => tell({ kind: 'opened' });
      events.onmessage = ({ data }: MessageEvent<string>) => tell(JSON.parse(data) as ProjectEvent);
      // A cut connection comes back by itself; one that was answered with an error does not.
      events.onerror = () => {
        if (events.readyState === EventSource.CLOSED) again = setTimeout(connect, AGAIN_MS);
      };
    };
    connect();
    return new Promise<void>((resolve) => {
      ending.signal.addEventListener('abort', () => {
        clearTimeout(again);
        events.close();
        resolve();
      });
    });
  };
  // Under a name of the local network browsers offer no locks: then every window listens for itself.
  const locks = navigator.locks as LockManager | undefined;
  if (locks) locks.request(name, { signal: ending.signal }, listen).catch(() => undefined);
  else void listen();
  // Whatever was missed meanwhile.
  const back = () => hear({ kind: 'opened' });
  const seen = () => document.visibilityState === 'visible' && back();
  window.addEventListener('online', back);
  document.addEventListener('visibilitychange', seen);
  return () => {
    window.removeEventListener('online', back);
    document.removeEventListener('visibilitychange', seen);
    ending.abort();
    windows.close();
  };
}
