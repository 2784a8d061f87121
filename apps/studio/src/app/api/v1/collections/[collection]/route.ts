import { readJson } from '@/http/input';
import { json, Reply } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { validate } from '@/server/validate';

export const GET = route('admin', ({ params, yucca }) => json(yucca.collections.get(params.collection!)));

export const PATCH = route('admin', async ({ request, params, yucca }) => {
  const patch = await readJson(request, ['application/merge-patch+json', 'application/json']);
  return json(yucca.collections.patch(params.collection!, validate('CollectionPatch', patch)));
});

export const DELETE = route('admin', ({ params, yucca }) => {
  yucca.removeCollection(params.collection!);
  return new Reply(null, { status: 204 });
});

export const { POST, PUT } = refuseOthers('GET', 'PATCH', 'DELETE');
