import type { Caller } from '@/server/keys/caller';
import type { Runtime } from '@/server/runtime';
import type { Incoming } from './incoming';

/** Paths that change nothing although they are posted to: they ask. */
const ASKS = /(\/(whereabouts|trial|cost|preview|read|inspect|compare)|(?<!\/feeds\/[^/]+)\/run)$/;

/** Notes who changed what. Called once the change is made. `detail` is what the route adds, such as versions. */
export function noteInAudit(
  { method, url, remote }: Incoming,
  params: Record<string, string>,
  { label, keyId }: Caller,
  { audit }: Runtime,
  detail: Record<string, string | number | null> | null,
): void {
  const path = url.pathname.replace(/^\/api\/v1/, '');
  if (ASKS.test(path)) return;
  audit.note({
    actor: label,
    keyId,
    remote,
    method,
    path: path.slice(0, 1000),
    collection: params.collection ?? null,
    detail,
  });
}
