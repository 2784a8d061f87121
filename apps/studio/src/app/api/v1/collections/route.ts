import { readJson } from '@/http/input';
import { refuseOthers, route } from '@/http/route';
import { validate } from '@/server/validate';

export const GET = route('admin', ({ yucca }) => {
  const items = yucca.collections.list();
  return Response.json({ items, total: items.length, page: 1, pages: 1, size: items.length });
});

export const POST = route('admin', async ({ request, yucca }) => {
  const collection = await yucca.collections.create(validate('NewCollection', await readJson(request)));
  return Response.json(collection, { status: 201, headers: { Location: `/api/v1/collections/${collection.name}` } });
});

export const { PUT, PATCH, DELETE } = refuseOthers('GET', 'POST');
