import { NextResponse, type NextRequest } from 'next/server';
import { refusedAtTheGate } from './app/server/gate';

function contentSecurity(nonce: string): string {
  const development = process.env.NODE_ENV !== 'production';
  return [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'${development ? " 'unsafe-eval'" : ''}`,
    // Positions of drawers and menus are style attributes; scripts are what must not come from the page's text.
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data:",
    "font-src 'self'",
    "connect-src 'self'",
    "frame-ancestors 'none'",
    "base-uri 'none'",
    "form-action 'self'",
  ].join('; ');
}

/** Refuses foreign hosts and foreign pages that would change something, and gives every page its script policy. */
export function proxy(request: NextRequest): NextResponse {
  const refused = refusedAtTheGate(request);
  if (refused) return new NextResponse(refused.body, { status: refused.status });
  const nonce = Buffer.from(crypto.randomUUID()).toString('base64');
  const policy = contentSecurity(nonce);
  const headers = new Headers(request.headers);
  headers.set('x-nonce', nonce);
  headers.set('content-security-policy', policy);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set('content-security-policy', policy);
  response.headers.set('x-content-type-options', 'nosniff');
  response.headers.set('referrer-policy', 'same-origin');
  return response;
}

/**
 * Files that are handed in do not pass here: the framework would hold a copy of the body for this function and cut it
 * off at a limit of its own. Their route asks the gate itself.
 */
export const config = { matcher: ['/((?!_next/static|_next/image|icon.svg|api/books/[^/]+/files$).*)'] };
