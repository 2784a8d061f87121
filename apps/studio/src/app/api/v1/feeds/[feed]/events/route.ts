import { FEED_EVENT_STATES } from '@yucca/contract';
import { oneOf, parseJson, readText, wholeNumber } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';

const ANY = 'any';

/** What came, the newest first, and what became of it. */
export const GET = route('admin', ({ url, params, caller, yucca }) => {
  requireNoLimits(caller);
  const [page, size] = [wholeNumber(url, 'page', 1, 1, 1e6), wholeNumber(url, 'size', 50, 0, 500)];
  const state = oneOf(url, 'state', [ANY, ...FEED_EVENT_STATES], ANY);
  return json(yucca.feeds.sent.events(params.feed!, state === ANY ? null : state, page, size));
});

/** Takes in what a source sends. Its signature is what lets it in. */
export const POST = route('none', async ({ request, params, yucca }) => {
  const body = await readText(request);
  const taken = await yucca.feeds.sent.take(params.feed!, request.headers, body, parseJson);
  return json(taken, { status: taken.taken > 0 ? 202 : 200 });
});

export const { PUT, PATCH, DELETE } = refuseOthers('GET', 'POST');
