import { NextResponse, type NextRequest } from 'next/server';
import { isOwnHost } from '@/server/guard';

/** Pages only: route handlers check for themselves, and must get their bodies unbuffered. */
export const config = { matcher: ['/((?!api/|workers/|worklets/|_next/static|_next/image).*)'] };

export function proxy(request: NextRequest): NextResponse {
  if (!isOwnHost(request.headers.get('host'))) {
    return new NextResponse('Bijou is not served under this name.', { status: 403 });
  }
  const nonce = crypto.randomUUID();
  const isDevelopment = process.env.NODE_ENV === 'development';
  const policy = [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'${isDevelopment ? " 'unsafe-eval'" : ''}`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data:",
    "worker-src 'self'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ');
  const headers = new Headers(request.headers);
  headers.set('x-nonce', nonce);
  headers.set('Content-Security-Policy', policy);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set('Content-Security-Policy', policy);
  return response;
}
