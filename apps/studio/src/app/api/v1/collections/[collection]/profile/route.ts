import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';

export const GET = route('read', async ({ params, asking, yucca }) =>
  json(await yucca.profiles.get(params.collection!, asking.forcedFilter)),
);

export const { POST, PUT, PATCH, DELETE } = refuseOthers('GET');
