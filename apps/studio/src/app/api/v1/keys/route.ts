import { readJson } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';
import { validate } from '@/server/validate';
import { wholeList } from '@/server/list-page';

export const GET = route('admin', ({ caller, yucca }) => {
  requireNoLimits(caller);
  const items = yucca.keys.list();
  return json(wholeList(items));
});

export const POST = route('admin', async ({ request, caller, yucca }) => {
  requireNoLimits(caller);
  const made = yucca.keys.create(validate('NewKey', await readJson(request)));
  return json(made, { status: 201 }).noting({ label: made.key.label, key: made.key.id });
});

export const { PUT, PATCH, DELETE } = refuseOthers('GET', 'POST');
