import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { reaches } from '@/server/keys/caller';

export const GET = route('admin', ({ url, caller, yucca }) => {
  const all = yucca.tasks.list(url.searchParams.get('collection'));
  const items = all.filter(({ collection }) => reaches(caller, collection));
  return json({ items, total: items.length, page: 1, pages: 1, size: items.length });
});

export const { POST, PUT, PATCH, DELETE } = refuseOthers('GET');
