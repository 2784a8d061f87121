import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';

/** Makes another secret, told this once; the one before holds for a day more. */
export const POST = route('admin', ({ params, caller, yucca }) => {
  requireNoLimits(caller);
  return json(yucca.feeds.renewSecret(params.feed!));
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
