/** Names under which this server may be called besides those of the machine itself: `BIJOU_HOSTS`, comma-separated. */
function allowedHosts(): Set<string> {
  const more = (process.env['BIJOU_HOSTS'] ?? '').split(',').map((host) => host.trim());
  return new Set(['127.0.0.1', 'localhost', '[::1]', ...more.filter((host) => host !== '')]);
}

/** Whether a Host header names this server. Others would let a foreign page reach it by DNS rebinding. */
export function isOwnHost(host: string | null): boolean {
  return host !== null && allowedHosts().has(host.replace(/:\d+$/, ''));
}

/** Whether a request was sent by one of our own pages, or by no page at all. */
export function isOwnOrigin(headers: Headers): boolean {
  const origin = headers.get('origin');
  if (origin !== null)
    return origin === 'null' ? false : new URL(origin).host === headers.get('host');
  const site = headers.get('sec-fetch-site');
  return site === null || site === 'same-origin' || site === 'none';
}
