import { readJson } from '@/http/input';
import { recordRoutes } from '@/http/record-routes';
import { json } from '@/http/reply';
import { route } from '@/http/route';
import { Failure } from '@/server/failure';

const MOST = 10_000;

/** Several records; with every other method the address is that of a record whose key is `delete`. */
export const POST = route('write', async ({ request, params, yucca }) => {
  const body = (await readJson(request)) as { ids?: unknown; filter?: unknown } | null;
  const name = params.collection!;
  if (typeof body?.filter === 'string' && body.ids === undefined) {
    const keys = await yucca.search.keysWhere(name, body.filter);
    const deleted = await yucca.records.remove(name, keys, body.filter);
    return json({ deleted }).noting({ deleted, filter: body.filter.slice(0, 200) });
  }
  const ids = body?.ids;
  if (!Array.isArray(ids) || ids.length > MOST || !ids.every((id) => typeof id === 'string')) {
    const detail = `must be a list of at most ${MOST} keys; or send a filter alone`;
    throw new Failure('invalid', `ids ${detail}.`, [{ pointer: '/ids', detail }]);
  }
  const deleted = await yucca.records.remove(name, ids as string[]);
  return json({ deleted }).noting({ deleted });
});

export const { GET, PUT, PATCH, DELETE } = recordRoutes(() => 'delete');
