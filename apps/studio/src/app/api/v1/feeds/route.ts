import { readJson, wholeNumber } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';
import { validate } from '@/server/validate';

/** Feeds, all or those of a collection. */
export const GET = route('admin', ({ url, caller, yucca }) => {
  requireNoLimits(caller);
  const [page, size] = [wholeNumber(url, 'page', 1, 1, 1e6), wholeNumber(url, 'size', 50, 0, 500)];
  return json(yucca.feeds.list(page, size, url.searchParams.get('collection')));
});

/** Makes a feed, and tells its secret this once. */
export const POST = route('admin', async ({ request, caller, yucca }) => {
  requireNoLimits(caller);
  const made = yucca.feeds.create(validate('NewFeed', await readJson(request)));
  return json(made, { status: 201 }).noting({ name: made.feed.name });
});

export const { PUT, PATCH, DELETE } = refuseOthers('GET', 'POST');
