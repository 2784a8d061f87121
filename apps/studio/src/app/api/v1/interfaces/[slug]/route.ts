import { readJson } from '@/http/input';
import { readVersion } from '@/http/publishing';
import { json, Reply } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';
import { validate } from '@/server/validate';
import { tagOf } from '@/server/versions/versions';

export const GET = route('admin', ({ url, params, caller, yucca }) => {
  requireNoLimits(caller);
  const found = yucca.interfaces.get(params.slug!, readVersion(url));
  return json(found, { headers: { ETag: tagOf(found.document) } });
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
