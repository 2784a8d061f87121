import { readJson } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';
import { validate } from '@/server/validate';

/** Tries dead events again: those numbered, or all. */
export const POST = route('admin', async ({ request, params, caller, yucca }) => {
  requireNoLimits(caller);
  const { numbers = null } = validate('FeedReplay', await readJson(request));
  const applied = await yucca.feeds.sent.replay(params.feed!, numbers);
  return json({ applied }).noting({ applied });
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
