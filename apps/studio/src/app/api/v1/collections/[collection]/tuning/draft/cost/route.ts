import { readJson } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';

/** What saving this document as the draft would take; nothing is saved. */
export const POST = route('admin', async ({ request, params, yucca }) =>
  json(yucca.tunings.cost(params.collection!, await readJson(request))),
);

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
