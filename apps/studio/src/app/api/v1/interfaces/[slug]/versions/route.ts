import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';

export const GET = route('admin', ({ params, caller, yucca }) => {
  requireNoLimits(caller);
  const items = yucca.interfaces.versions(params.slug!);
  return json({ items, total: items.length, page: 1, pages: 1, size: items.length });
});

export const { POST, PUT, PATCH, DELETE } = refuseOthers('GET');
