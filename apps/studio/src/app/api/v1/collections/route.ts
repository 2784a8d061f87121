import { readJson } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { reaches, requireCollection } from '@/server/keys/caller';
import { validate } from '@/server/validate';
import { wholeList } from '@/server/list-page';

export const GET = route('admin', ({ caller, yucca }) => {
  const items = yucca.collections.list().filter(({ name }) => reaches(caller, name));
  return json(wholeList(items));
});

export const POST = route('admin', async ({ request, caller, yucca }) => {
  const wanted = validate('NewCollection', await readJson(request));
  requireCollection(caller, wanted.name);
  const collection = await yucca.collections.create(wanted);
  const headers = { Location: `/api/v1/collections/${collection.name}` };
  return json(collection, { status: 201, headers }).noting({ name: collection.name });
});

export const { PUT, PATCH, DELETE } = refuseOthers('GET', 'POST');
