import { isTrue, readJson } from '@/http/input';
import { json, Reply } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';
import { validate } from '@/server/validate';

export const GET = route('admin', ({ params, caller, yucca }) => {
  requireNoLimits(caller);
  return json(yucca.feeds.get(params.feed!));
});

export const PATCH = route('admin', async ({ request, params, caller, yucca }) => {
  requireNoLimits(caller);
  const patch = validate('FeedPatch', await readJson(request));
  return json(await yucca.feeds.change(params.feed!, patch)).noting({ name: patch.name ?? null });
});

/** Ends a feed; the records it wrote stay. */
export const DELETE = route('admin', async ({ url, params, caller, yucca }) => {
  requireNoLimits(caller);
  const { name } = yucca.feeds.get(params.feed!);
  await yucca.feeds.remove(params.feed!, isTrue(url, 'force'));
  return new Reply(null, { status: 204 }).noting({ name });
});

export const { PUT, POST } = refuseOthers('GET', 'PATCH', 'DELETE');
