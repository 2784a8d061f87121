import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { Failure } from '@/server/failure';
import { forCaller } from '@/server/tuning/for-caller';

export const GET = route('read', ({ url, params, caller, yucca }) => {
  const version = url.searchParams.get('version') ?? 'live';
  if (version !== 'live' && version !== 'draft' && !/^[1-9]\d{0,8}$/.test(version)) {
    throw new Failure('invalid', 'version must be live, draft or a number.', [
      { pointer: '/version', detail: 'must be live, draft or a number' },
    ]);
  }
  const wanted = version === 'live' || version === 'draft' ? version : Number(version);
  const document = forCaller(yucca.tunings.get(params.collection!, wanted), caller);
  return json(document, { headers: { ETag: yucca.tunings.tagOf(document) } });
});

export const { POST, PUT, PATCH, DELETE } = refuseOthers('GET');
