import { openApiDocument } from '@yucca/contract/openapi';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { VERSION } from '@/server/config';

export const dynamic = 'force-dynamic';

/** The API described by the schemas it validates with. */
export const GET = route('none', ({ url }) =>
  json(openApiDocument(url.origin, VERSION), { headers: { 'Access-Control-Allow-Origin': '*' } }),
);

export const { POST, PUT, PATCH, DELETE } = refuseOthers('GET');
