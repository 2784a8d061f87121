import { readJson } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';
import { validate } from '@/server/validate';

/** Sends an event the way the source would, and tells what became of it. */
export const POST = route('admin', async ({ request, params, caller, yucca }) => {
  requireNoLimits(caller);
  const told = await yucca.feeds.sent.test(params.feed!, validate('FeedTest', await readJson(request)));
  return json(told).noting({ key: told.key });
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
