import { readJson } from '@/http/input';
import { refuseOthers, route } from '@/http/route';
import { Failure } from '@/server/failure';

const MOST = 10_000;

export const POST = route('write', async ({ request, params, yucca }) => {
  const body = (await readJson(request)) as { ids?: unknown } | null;
  const ids = body?.ids;
  if (!Array.isArray(ids) || ids.length > MOST || !ids.every((id) => typeof id === 'string')) {
    const detail = `must be a list of at most ${MOST} keys`;
    throw new Failure('invalid', `ids ${detail}.`, [{ pointer: '/ids', detail }]);
  }
  return Response.json({ deleted: await yucca.records.remove(params.collection!, ids as string[]) });
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
