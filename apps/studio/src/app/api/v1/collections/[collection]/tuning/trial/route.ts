import { readJson } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { checkTuning } from '@/server/tuning/tuning';
import { validate } from '@/server/validate';

/** What a tuning would do to some queries, against the draft; nothing is saved. */
export const POST = route('admin', async ({ request, params, asking, yucca }) => {
  const { tuning, queries } = validate('Trial', await readJson(request));
  return json({ effects: await yucca.search.trial(params.collection!, checkTuning(tuning), queries, asking) });
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
