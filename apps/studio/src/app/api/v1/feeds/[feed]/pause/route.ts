import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';

/** Keeps events from now on without applying them. */
export const POST = route('admin', ({ params, caller, yucca }) => {
  requireNoLimits(caller);
  return json(yucca.feeds.pause(params.feed!));
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
