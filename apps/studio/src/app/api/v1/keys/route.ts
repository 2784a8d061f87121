import { readJson } from '@/http/input';
import { refuseOthers, route } from '@/http/route';
import { validate } from '@/server/validate';

export const GET = route('admin', ({ yucca }) => {
  const items = yucca.keys.list();
  return Response.json({ items, total: items.length, page: 1, pages: 1, size: items.length });
});

export const POST = route('admin', async ({ request, yucca }) =>
  Response.json(yucca.keys.create(validate('NewKey', await readJson(request))), { status: 201 }),
);

export const { PUT, PATCH, DELETE } = refuseOthers('GET', 'POST');
