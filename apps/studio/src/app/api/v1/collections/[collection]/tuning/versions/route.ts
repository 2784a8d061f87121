import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';

export const GET = route('read', ({ params, yucca }) => {
  const items = yucca.tunings.versions(params.collection!);
  return json({ items, total: items.length, page: 1, pages: 1, size: items.length });
});

export const { POST, PUT, PATCH, DELETE } = refuseOthers('GET');
