/** Passwords and headers of a source: kept sealed, never told again. */
import type { FeedSource } from '@yucca/contract';
import { Failure } from '../failure';

/** By their place in the source. */
export interface FeedSecrets {
  /** The host they were given for: they go to no other. */
  host: string;
  headers?: Record<string, string>;
  password?: string;
}

/** The host and port that a source is asked at; empty for one on this machine. */
function hostOf(source: FeedSource): string {
  if (source.kind === 'postgres') return `${source.host}:${source.port ?? 5432}`;
  return source.kind === 'poll' && URL.canParse(source.url) ? new URL(source.url).origin : '';
}

/**
 * Parts a source into what is shown of it and its secrets. A secret that is null is the one from before, as long as the
 * host is the same. Throws a Failure where there is none.
 */
export function parted(source: FeedSource, before: FeedSecrets | null): { shown: FeedSource; secrets: FeedSecrets } {
  const host = hostOf(source);
  const kept = before?.host === host ? before : null;
  const secretAt = (value: string | null, old: string | undefined, pointer: string): string => {
    const secret = value ?? old;
    if (secret !== undefined) return secret;
    const detail = before === null ? 'must be sent' : 'must be sent again, because the address is another';
    throw new Failure('invalid', `${pointer} ${detail}.`, [{ pointer, detail }]);
  };
  if (source.kind === 'poll' && source.headers !== undefined) {
    const headers = Object.fromEntries(
      Object.entries(source.headers).map(([name, value]) => [
        name,
        secretAt(value as string | null, kept?.headers?.[name], `/source/headers/${name}`),
      ]),
    );
    const hidden = Object.fromEntries(Object.keys(headers).map((name) => [name, null]));
    return { shown: { ...source, headers: hidden }, secrets: { host, headers } };
  }
  if (source.kind === 'postgres' && source.password !== undefined) {
    const password = secretAt(source.password as string | null, kept?.password, '/source/password');
    return { shown: { ...source, password: null }, secrets: { host, password } };
  }
  return { shown: source, secrets: { host } };
}

/** A source with its secrets, as it is asked. */
export function joined(shown: FeedSource, secrets: FeedSecrets | null): FeedSource {
  if (shown.kind === 'poll' && secrets?.headers) return { ...shown, headers: secrets.headers };
  if (shown.kind === 'postgres' && secrets?.password !== undefined) return { ...shown, password: secrets.password };
  return shown;
}
