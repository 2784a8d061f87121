import { createHmac, timingSafeEqual } from 'node:crypto';
import { isLoopbackHost } from '@/server/config';
import { Failure } from '@/server/failure';
import { hasRight, requireOrigin, STUDIO, type Caller } from '@/server/keys/caller';
import type { Runtime } from '@/server/runtime';
import { SESSION_COOKIE } from '@/server/sessions/sessions';
import type { Incoming, IncomingHeaders } from './incoming';

/** In which header the front server notes how a request came; what was sent under this name is taken away first. */
export const WAY_HEADER = 'x-yucca-way';
/** In which header the studio's pages show that they are its own, where the browser does not say so by itself. */
export const PAGE_TOKEN_HEADER = 'x-yucca-page';

/**
 * Who sends a request: the holder of a key, or the studio's own pages. Throws a Failure when it is nobody.
 *
 * The studio's pages carry no key. What lets them in is that a page of this very server asks (`isOwnPage`); and either
 * that only this machine reaches the server (the `Host` check keeps out other names that were made to point here), or
 * the cookie of somebody who has signed in.
 */
export function callerOf(request: Incoming, yucca: Runtime): Caller {
  const header = request.headers.get('authorization');
  if (header !== null) {
    const secret = /^Bearer\s+(\S+)\s*$/i.exec(header)?.[1];
    if (secret === undefined)
      throw new Failure('unauthorised', 'The Authorization header should read “Bearer” and a key.');
    return holderOf(secret, request, yucca);
  }
  const inAddress = request.url.searchParams.get('key');
  if (inAddress) {
    const caller = holderOf(inAddress, request, yucca);
    // Addresses are written into logs, histories and referrers.
    if (hasRight(caller, 'write') || hasRight(caller, 'admin'))
      throw new Failure(
        'forbidden',
        'A key that may write does not belong into an address. Send it as “Authorization: Bearer <key>”.',
      );
    return caller;
  }
  if (studioIsOpen(request.headers, yucca) && isOwnPage(request)) return STUDIO;
  throw new Failure('unauthorised', 'Send a key in the Authorization header: “Authorization: Bearer <key>”.');
}

function holderOf(secret: string, request: Incoming, yucca: Runtime): Caller {
  const caller = yucca.keys.bySecret(secret);
  requireOrigin(caller, request.headers.get('origin'));
  return caller;
}

/**
 * Whether a page of this very server asks. Browsers say so in `Sec-Fetch-Site`, which no page of another can forge;
 * over plain HTTP to anything but this machine they leave it out (Fetch Metadata, "potentially trustworthy URLs"). Then
 * what reads is let in, because no other page can read the answer; what writes must come from an `Origin` that is the
 * `Host`, and bring the token that only the pages of whoever is signed in know.
 */
function isOwnPage({ method, headers }: Incoming): boolean {
  const site = headers.get('sec-fetch-site');
  if (site !== null) return site === 'same-origin';
  const session = sessionOf(headers);
  if (session === undefined) return false;
  const origin = headers.get('origin');
  if (method === 'GET' || method === 'HEAD') return origin === null || isOfHost(origin, headers);
  return origin !== null && isOfHost(origin, headers) && isPageToken(headers.get(PAGE_TOKEN_HEADER), session);
}

function isOfHost(origin: string, headers: IncomingHeaders): boolean {
  return URL.canParse(origin) && new URL(origin).host === headers.get('host')?.toLowerCase();
}

/** What the pages of a session show besides its cookie, which a browser sends along by itself. */
export function pageTokenOf(session: string): string {
  return createHmac('sha256', session).update('page of the studio').digest('base64url');
}

function isPageToken(token: string | null, session: string): boolean {
  const wanted = Buffer.from(pageTokenOf(session));
  const given = Buffer.from(token ?? '');
  return given.length === wanted.length && timingSafeEqual(given, wanted);
}

/**
 * Whether whoever sends these headers may use the studio. On a loopback address nobody needs to sign in, unless a proxy
 * stands before it: what reaches only this machine's proxy may come from anywhere.
 */
export function studioIsOpen(headers: IncomingHeaders, { config, sessions, front }: Runtime): boolean {
  const open = config.loopback && config.publicUrl === null && isLoopbackHost(headers.get('host'));
  if (open && cameDirectly(headers, front)) return true;
  return sessions.isSignedIn(sessionOf(headers));
}

/** The framework adds forwarding headers of its own, so the front server says beforehand how a request came. */
function cameDirectly(headers: IncomingHeaders, front: Runtime['front']): boolean {
  if (front !== null) return headers.get(WAY_HEADER) === front.directWay;
  return headers.get('forwarded') === null && headers.get('via') === null;
}

/** The session cookie of a request. */
export function sessionOf(headers: IncomingHeaders): string | undefined {
  return new RegExp(`(?:^|;\\s*)${SESSION_COOKIE}=([^;]+)`).exec(headers.get('cookie') ?? '')?.[1];
}
