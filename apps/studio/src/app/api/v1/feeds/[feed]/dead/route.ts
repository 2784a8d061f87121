import { wholeNumber } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';

/** Events that could not be applied, the newest first. */
export const GET = route('admin', ({ url, params, caller, yucca }) => {
  requireNoLimits(caller);
  const [page, size] = [wholeNumber(url, 'page', 1, 1, 1e6), wholeNumber(url, 'size', 50, 0, 500)];
  return json(yucca.feeds.sent.events(params.feed!, 'dead', page, size));
});

export const { PUT, PATCH, POST, DELETE } = refuseOthers('GET');
