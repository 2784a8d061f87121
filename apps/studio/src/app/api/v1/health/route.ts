import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { VERSION } from '@/server/config';

export const dynamic = 'force-dynamic';

export const GET = route('none', ({ yucca }) =>
  json({
    status: 'ok',
    version: VERSION,
    collections: yucca.collections.count(),
    uptimeS: Math.round((Date.now() - yucca.startedAt) / 1000),
  }),
);

export const { POST, PUT, PATCH, DELETE } = refuseOthers('GET');
