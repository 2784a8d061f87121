import { readJson } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';
import { validate } from '@/server/validate';

export const GET = route('admin', ({ caller, yucca }) => {
  requireNoLimits(caller);
  const items = yucca.keys.list();
  return json({ items, total: items.length, page: 1, pages: 1, size: items.length });
});

export const POST = route('admin', async ({ request, caller, yucca }) => {
  requireNoLimits(caller);
  const made = yucca.keys.create(validate('NewKey', await readJson(request)));
  return json(made, { status: 201 }).noting({ label: made.key.label, key: made.key.id });
});

export const { PUT, PATCH, DELETE } = refuseOthers('GET', 'POST');
