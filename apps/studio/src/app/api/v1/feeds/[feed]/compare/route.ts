import { recordsSent } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';

/**
 * Compares the collection with the records of its source, one a line, or with those it
 * has now when none are sent; changes nothing. */
export const POST = route('admin', async ({ request, params, caller, yucca }) => {
  requireNoLimits(caller);
  return json(await yucca.feeds.compare(params.feed!, recordsSent(request)));
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
