import { readAsked } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { validate } from '@/server/validate';

/** Where a record stands among the results of a search, or why it is not there. */
export const POST = route('read', async ({ request, params, asking, yucca }) => {
  const { id, ...search } = validate('WhereaboutsRequest', await readAsked(request));
  return json(await yucca.search.whereabouts(params.collection!, search, id, asking));
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
