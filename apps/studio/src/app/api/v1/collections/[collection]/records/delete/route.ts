import { readJson } from '@/http/input';
import { refuseOthers, route } from '@/http/route';
import { Failure } from '@/server/failure';

const MOST = 10_000;

export const POST = route('write', async ({ request, params, yucca }) => {
  const body = (await readJson(request)) as { ids?: unknown; filter?: unknown } | null;
  const name = params.collection!;
  if (typeof body?.filter === 'string' && body.ids === undefined) {
    const keys = await yucca.search.keysWhere(name, body.filter);
    return Response.json({ deleted: await yucca.records.remove(name, keys) });
  }
  const ids = body?.ids;
  if (!Array.isArray(ids) || ids.length > MOST || !ids.every((id) => typeof id === 'string')) {
    const detail = `must be a list of at most ${MOST} keys; or send a filter alone`;
    throw new Failure('invalid', `ids ${detail}.`, [{ pointer: '/ids', detail }]);
  }
  return Response.json({ deleted: await yucca.records.remove(name, ids as string[]) });
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
