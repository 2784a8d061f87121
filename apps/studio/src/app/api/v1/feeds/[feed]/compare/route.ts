import { unpackedBody } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';

/** Compares the collection with the records of its source, one a line; changes nothing. */
export const POST = route('admin', async ({ request, params, caller, yucca }) => {
  requireNoLimits(caller);
  return json(await yucca.feeds.compare(params.feed!, unpackedBody(request, 'application/x-ndjson')));
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
