import { isLoopbackHost } from '@/server/config';
import { Failure } from '@/server/failure';
import { requireOrigin, STUDIO, type Caller } from '@/server/keys/caller';
import type { Runtime } from '@/server/runtime';
import { SESSION_COOKIE } from '@/server/sessions/sessions';

/**
 * Who sends a request: the holder of a key, or the studio's own pages. Throws a Failure when it is nobody.
 *
 * The studio's pages carry no key. What lets them in is that the browser says, in `Sec-Fetch-Site`, that a page of this
 * very server asks, which no page of another can forge; and either that only this machine reaches the server (the `Host`
 * check keeps out other names that were made to point here), or the cookie of somebody who has signed in.
 */
export function callerOf(request: Request, yucca: Runtime): Caller {
  const header = request.headers.get('authorization');
  const secret =
    header === null ? new URL(request.url).searchParams.get('key') : /^Bearer\s+(\S+)\s*$/i.exec(header)?.[1];
  if (secret) {
    const caller = yucca.keys.bySecret(secret);
    requireOrigin(caller, request.headers.get('origin'));
    return caller;
  }
  if (header !== null) throw new Failure('unauthorised', 'The Authorization header should read “Bearer” and a key.');
  if (request.headers.get('sec-fetch-site') === 'same-origin' && studioIsOpen(request.headers, yucca)) return STUDIO;
  throw new Failure('unauthorised', 'Send a key in the Authorization header: “Authorization: Bearer <key>”.');
}

/** Whether whoever sends these headers may use the studio. */
export function studioIsOpen(headers: Headers, { config, sessions }: Runtime): boolean {
  if (config.loopback && isLoopbackHost(headers.get('host'))) return true;
  return sessions.isSignedIn(sessionOf(headers));
}

/** The session cookie of a request. */
export function sessionOf(headers: Headers): string | undefined {
  return new RegExp(`(?:^|;\\s*)${SESSION_COOKIE}=([^;]+)`).exec(headers.get('cookie') ?? '')?.[1];
}
