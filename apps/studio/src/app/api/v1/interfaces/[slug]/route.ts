import { readJson } from '@/http/input';
import { json, Reply } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';
import { validate } from '@/server/validate';

export const GET = route('admin', ({ params, caller, yucca }) => {
  requireNoLimits(caller);
  return json(yucca.interfaces.get(params.slug!));
});

export const PUT = route('admin', async ({ request, params, caller, yucca }) => {
  requireNoLimits(caller);
  return json(yucca.interfaces.put(params.slug!, validate('Interface', await readJson(request))));
});

export const DELETE = route('admin', ({ params, caller, yucca }) => {
  requireNoLimits(caller);
  yucca.interfaces.remove(params.slug!);
  return new Reply(null, { status: 204 });
});

export const { POST, PATCH } = refuseOthers('GET', 'PUT', 'DELETE');
