import { readJson } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';
import { validate } from '@/server/validate';

/** The first records of a source, as they come and as they would be stored. Nothing is kept. */
export const POST = route('admin', async ({ request, caller, yucca }) => {
  requireNoLimits(caller);
  return json(await yucca.feeds.preview(validate('FeedPreview', await readJson(request))));
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
