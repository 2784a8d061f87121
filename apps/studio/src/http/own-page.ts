import { Failure } from '@/server/failure';
import type { Incoming } from './incoming';

/**
 * Throws a Failure when a form was not sent by a page of this server. Browsers say so themselves, in `Sec-Fetch-Site`,
 * or where they leave that out (plain HTTP) in the `Origin` that goes with every form that is posted.
 */
export function requireOwnPage({ headers }: Incoming): void {
  const site = headers.get('sec-fetch-site');
  const origin = headers.get('origin');
  const sameHost =
    origin === null || (URL.canParse(origin) && new URL(origin).host === headers.get('host')?.toLowerCase());
  if (site === null ? !sameHost : site !== 'same-origin' && site !== 'none')
    throw new Failure('forbidden', 'This form was sent by a page of another site.');
}
