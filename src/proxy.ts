import { NextResponse, type NextRequest } from 'next/server';

/** Hosts this server answers to, beside its own loopback address: a page of another name must not reach the books. */
const HOSTS = new Set((process.env.NEST_EGG_HOSTS ?? '').split(',').filter(Boolean));

function isOurHost(host: string): boolean {
  const name = host.replace(/:\d+$/, '');
  return name === '127.0.0.1' || name === 'localhost' || name === '[::1]' || HOSTS.has(name);
}

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
  const host = request.headers.get('host') ?? '';
  if (!isOurHost(host)) return new NextResponse('This address is not served here.', { status: 421 });
  const origin = request.headers.get('origin');
  if (request.method !== 'GET' && request.method !== 'HEAD' && origin !== null && new URL(origin).host !== host) {
    return new NextResponse('Changes are taken from this application’s own pages only.', { status: 403 });
  }
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

export const config = { matcher: ['/((?!_next/static|_next/image|icon.svg).*)'] };
