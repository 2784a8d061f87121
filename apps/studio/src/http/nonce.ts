import type { IncomingHeaders } from './incoming';

/** The nonce that the front server has given a page for its scripts and styles; undefined in development. */
export function nonceOf(headers: IncomingHeaders): string | undefined {
  return /'nonce-([^']+)'/.exec(headers.get('content-security-policy') ?? '')?.[1];
}
