import { Failure } from '@/server/failure';

/** Throws a Failure when a form was not sent by a page of this server: browsers say so themselves. */
export function requireOwnPage(request: Request): void {
  const site = request.headers.get('sec-fetch-site');
  if (site !== null && site !== 'same-origin' && site !== 'none')
    throw new Failure('forbidden', 'This form was sent by a page of another site.');
}
