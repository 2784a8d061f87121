import type { IncomingHeaders } from './incoming';

/** A name or address with an optional port, as `Host` may hold it (RFC 9110, section 7.2). */
const HOST = /^(\[[0-9a-f:.]+\]|[a-z0-9._-]+)(:\d{1,5})?$/i;

/** Whether the visitor came over HTTPS, as far as a proxy tells. */
export function isSecure(headers: IncomingHeaders): boolean {
  return firstOf(headers.get('x-forwarded-proto')) === 'https';
}

/**
 * Where a visitor reaches this server: what the owner has said, else what the request tells. Odd values of headers that
 * anybody may send become this machine's own name, and never a part of a page.
 */
export function baseOf(headers: IncomingHeaders, publicUrl: string | null): string {
  if (publicUrl !== null) return publicUrl.replace(/\/+$/, '');
  const host = headers.get('host') ?? '';
  const address = `${isSecure(headers) ? 'https' : 'http'}://${HOST.test(host) ? host : 'localhost'}`;
  return URL.canParse(address) ? address : 'http://localhost';
}

/** The first of a list, in lower case. */
function firstOf(list: string | null): string {
  return (list ?? '').split(',')[0]!.trim().toLowerCase();
}
