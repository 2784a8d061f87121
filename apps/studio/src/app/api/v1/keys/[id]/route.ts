import { Reply } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';

export const DELETE = route('admin', ({ params, caller, yucca }) => {
  requireNoLimits(caller);
  yucca.keys.remove(params.id!);
  return new Reply(null, { status: 204 });
});

export const { GET, POST, PUT, PATCH } = refuseOthers('DELETE');
