import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';
import { wholeList } from '@/server/list-page';

export const GET = route('admin', ({ params, caller, yucca }) => {
  requireNoLimits(caller);
  const items = yucca.interfaces.versions(params.slug!);
  return json(wholeList(items));
});

export const { POST, PUT, PATCH, DELETE } = refuseOthers('GET');
