/** Which hosts may be asked: those of the public internet, and private ones that are named. */
import ipaddr from 'ipaddr.js';
import { lookup as dnsLookup, type LookupAddress, type LookupOptions } from 'node:dns';
import { isIP } from 'node:net';
import { SourceError } from './source-error';

/** How `net.connect` asks for the address of a host. */
export type Lookup = (
  host: string,
  options: LookupOptions,
  done: (error: Error | null, addresses: LookupAddress[] | string, family?: number) => void,
) => void;

/** Whether an address belongs to the public internet (IANA's special-purpose registries, by `ipaddr.js`). */
export function isPublic(address: string): boolean {
  if (!ipaddr.isValid(address)) return false;
  // An IPv4 address within IPv6 is judged as what it leads to.
  const parsed = ipaddr.process(address);
  return parsed.range() === 'unicast';
}

/** `host:port` as `allowPrivate` names it. */
const named = (host: string, port: number): string => `${host.toLowerCase()}:${port}`;

/**
 * Whether a host is named with its port. A name without a port stands for any.
 */
export function isNamed(host: string, port: number, allowed: readonly string[]): boolean {
  const lower = allowed.map((one) => one.toLowerCase());
  return lower.includes(named(host, port)) || lower.includes(host.toLowerCase());
}

/** Throws a SourceError for a host written as an address that must not be asked. */
export function checkHost(host: string, port: number, allowed: readonly string[]): void {
  const bare = host.replace(/^\[|\]$/g, '');
  if (isIP(bare) === 0 || isNamed(host, port, allowed) || isPublic(bare)) return;
  throw refusal(host, port);
}

/**
 * Looks a host up and lets only public addresses through, so that a name cannot lead into a private network. It is the
 * lookup of the connection itself: what was checked is what is connected to.
 */
export function guardedLookup(port: number, allowed: readonly string[]): Lookup {
  return (host, options, done) => {
    dnsLookup(host, { ...options, all: true }, (error, addresses) => {
      if (error) return done(new SourceError(`${host} has no address (${error.code ?? error.message}).`), []);
      const open = isNamed(host, port, allowed) ? addresses : addresses.filter(({ address }) => isPublic(address));
      if (open.length === 0) return done(refusal(host, port), []);
      if (options.all) return done(null, open);
      done(null, open[0]!.address, open[0]!.family);
    });
  };
}

const refusal = (host: string, port: number): SourceError =>
  new SourceError(`${host} is in a private network. Allow ${named(host, port)} by name if it is meant.`);
