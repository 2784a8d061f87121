import { readJson } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { reaches, requireCollection } from '@/server/keys/caller';
import { validate } from '@/server/validate';

export const GET = route('admin', ({ caller, yucca }) => {
  const items = yucca.collections.list().filter(({ name }) => reaches(caller, name));
  return json({ items, total: items.length, page: 1, pages: 1, size: items.length });
});

export const POST = route('admin', async ({ request, caller, yucca }) => {
  const wanted = validate('NewCollection', await readJson(request));
  requireCollection(caller, wanted.name);
  const collection = await yucca.collections.create(wanted);
  const headers = { Location: `/api/v1/collections/${collection.name}` };
  return json(collection, { status: 201, headers }).noting({ name: collection.name });
});

export const { PUT, PATCH, DELETE } = refuseOthers('GET', 'POST');
