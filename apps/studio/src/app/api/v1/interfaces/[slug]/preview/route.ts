import { readJson } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';
import { validate } from '@/server/validate';

const USUAL_S = 3600;

export const POST = route('admin', async ({ request, params, caller, yucca }) => {
  requireNoLimits(caller);
  const { expiresInS = USUAL_S } = request.headers.has('content-type')
    ? validate('PreviewRequest', await readJson(request))
    : {};
  return json(yucca.interfaces.preview(params.slug!, expiresInS), { status: 201 });
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
