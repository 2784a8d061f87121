import { readVersion } from '@/http/publishing';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { forCaller } from '@/server/tuning/for-caller';

export const GET = route('read', ({ url, params, caller, yucca }) => {
  const document = forCaller(yucca.tunings.get(params.collection!, readVersion(url)), caller);
  return json(document, { headers: { ETag: yucca.tunings.tagOf(document) } });
});

export const { POST, PUT, PATCH, DELETE } = refuseOthers('GET');
