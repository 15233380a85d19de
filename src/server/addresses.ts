import { subscribe } from 'node:diagnostics_channel';
import type { IncomingMessage } from 'node:http';

/** Where requests go whose address cannot be read. */
const UNREADABLE = { api: '/api/unreadable', page: '/unreadable' };

/**
 * Has addresses that are no percent-encoded UTF-8 answered like everything else: the framework would end such a
 * request with a bare text before any route has seen it.
 */
export function readAddresses(): void {
  subscribe('http.server.request.start', (message) => {
    const { request } = message as { request: IncomingMessage };
    const path = (request.url ?? '').split('?', 1)[0]!;
    if (isReadable(path)) return;
    request.url = path.startsWith('/api/') ? UNREADABLE.api : UNREADABLE.page;
  });
}

function isReadable(path: string): boolean {
  try {
    decodeURIComponent(path);
    return true;
  } catch {
    return false;
  }
}
