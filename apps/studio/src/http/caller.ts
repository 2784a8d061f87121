import { isLoopbackHost } from '@/server/config';
import { Failure } from '@/server/failure';
import { Keys, type Caller } from '@/server/keys/keys';
import type { Runtime } from '@/server/runtime';

/**
 * Who sends a request: the holder of a key, or the studio's own pages. On a server that only this machine can reach, a
 * page it served itself may do everything. Browsers say so in `Sec-Fetch-Site`, which no page can forge, and the `Host`
 * check keeps out other names that were made to point here. Throws a Failure when it is nobody.
 */
export function callerOf(request: Request, { keys, config }: Runtime): Caller {
  const header = request.headers.get('authorization');
  const secret =
    header === null ? new URL(request.url).searchParams.get('key') : /^Bearer\s+(\S+)\s*$/i.exec(header)?.[1];
  if (secret) return keys.bySecret(secret);
  if (header !== null) throw new Failure('unauthorised', 'The Authorization header should read “Bearer” and a key.');
  const own = request.headers.get('sec-fetch-site') === 'same-origin' && isLoopbackHost(request.headers.get('host'));
  if (config.loopback && own) return Keys.studio();
  throw new Failure('unauthorised', 'Send a key in the Authorization header: “Authorization: Bearer <key>”.');
}
