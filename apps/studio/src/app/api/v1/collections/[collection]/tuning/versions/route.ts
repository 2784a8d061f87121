import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { wholeList } from '@/server/list-page';

export const GET = route('read', ({ params, yucca }) => {
  const items = yucca.tunings.versions(params.collection!);
  return json(wholeList(items));
});

export const { POST, PUT, PATCH, DELETE } = refuseOthers('GET');
