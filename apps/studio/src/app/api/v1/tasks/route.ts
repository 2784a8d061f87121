import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { reaches } from '@/server/keys/caller';
import { wholeList } from '@/server/list-page';

export const GET = route('admin', ({ url, caller, yucca }) => {
  const all = yucca.tasks.list(url.searchParams.get('collection'));
  const items = all.filter(({ collection }) => reaches(caller, collection));
  return json(wholeList(items));
});

export const { POST, PUT, PATCH, DELETE } = refuseOthers('GET');
