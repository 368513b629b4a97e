import { NextResponse, type NextRequest } from 'next/server';
import { OWNER_HEADER, ownerMark } from './offline/ownerMark';
import { OPEN, OPEN_BY_SECRET } from './open';

/** The session cookie's name, over TLS the second; its prefix is set where sign-in is configured. */
const SESSION_COOKIES = ['patient-shelf.session_token', '__Secure-patient-shelf.session_token'];

/**
 * The first of two doors: whoever carries nothing that could be a session is turned away here, and every page gets a
 * policy under which only this server's own scripts run.
 */
export async function proxy(request: NextRequest): Promise<NextResponse> {
  const { pathname } = request.nextUrl;
  const isOpen = OPEN.includes(pathname) || OPEN_BY_SECRET.some((start) => pathname.startsWith(start));
  if (!isOpen && sessionOf(request) === undefined) {
    const to = request.nextUrl.clone();
    to.pathname = '/sign-in';
    to.search = pathname === '/' ? '' : `?from=${encodeURIComponent(pathname + request.nextUrl.search)}`;
    // Goes out as a path: the name the browser called this server by is the browser's business.
    return NextResponse.redirect(to);
  }
  const nonce = Buffer.from(crypto.randomUUID()).toString('base64');
  const policy = [
    `default-src 'self'`,
    `script-src 'self' 'nonce-${nonce}' 'strict-dynamic'`,
    `style-src 'self' 'unsafe-inline'`,
    `img-src 'self' data:`,
    `font-src 'self'`,
    `connect-src 'self'`,
    `worker-src 'self'`,
    `object-src 'none'`,
    `base-uri 'none'`,
    `form-action 'self'`,
    `frame-ancestors 'none'`,
  ].join('; ');
  const headers = new Headers(request.headers);
  headers.set('content-security-policy', policy);
  headers.set('x-nonce', nonce);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set('content-security-policy', policy);
  response.headers.set('referrer-policy', 'same-origin');
  response.headers.set('x-content-type-options', 'nosniff');
  // By this a device that keeps pages knows whose they are.
  const session = sessionOf(request);
  if (!isOpen && session !== undefined) response.headers.set(OWNER_HEADER, await ownerMark(session));
  return response;
}

function sessionOf({ cookies }: NextRequest): string | undefined {
  return SESSION_COOKIES.map((name) => cookies.get(name)?.value).find((value) => value !== undefined);
}

// The interface has a door of its own, which answers in its own words, takes bearer tokens, and bodies of any size whole.
export const config = { matcher: ['/((?!api/|_next/static|_next/image|icon.svg).*)'] };
