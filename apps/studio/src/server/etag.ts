import { LRUCache } from 'lru-cache';
import { hash } from 'node:crypto';

/** What a text is told by (RFC 9110, section 8.8.3): another validator for every other text. */
export const etagOf = (text: string): string => `"${hash('sha256', text, 'base64url').slice(0, 22)}"`;

const kept = new LRUCache<string, string>({ max: 100 });

/** The same for a short text that is asked for again and again. */
export function keptEtag(text: string): string {
  let etag = kept.get(text);
  if (etag === undefined) kept.set(text, (etag = etagOf(text)));
  return etag;
}
