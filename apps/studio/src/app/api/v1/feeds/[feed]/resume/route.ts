import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';

/** Applies what has come meanwhile, and what comes. */
export const POST = route('admin', async ({ params, caller, yucca }) => {
  requireNoLimits(caller);
  return json(await yucca.feeds.resume(params.feed!));
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
