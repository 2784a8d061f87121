import { json, Reply } from './reply';
import { readJson } from './input';
import { refuseOthers, route, type Handler, type RouteContext } from './route';
import { Failure } from '@/server/failure';

/** The handlers of one record, wherever in the address its key stands. */
export function recordRoutes(
  keyIn: (context: RouteContext) => string,
): Record<'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE', Handler> {
  const GET = route('read', async (context) => {
    const { params, asking, yucca } = context;
    return json({ record: await yucca.records.get(params.collection!, keyIn(context), asking.forcedFilter) });
  });

  const PUT = route('write', async (context) => {
    const { request, params, yucca } = context;
    const key = keyIn(context);
    const { did } = await yucca.records.put(params.collection!, key, await readJson(request), 'replace');
    const record = await yucca.records.get(params.collection!, key);
    return json({ record }, { status: did === 'created' ? 201 : 200 }).noting({ key, did });
  });

  const PATCH = route('write', async (context) => {
    const { request, params, yucca } = context;
    const key = keyIn(context);
    const patch = await readJson(request, ['application/merge-patch+json', 'application/json']);
    const { did } = await yucca.records.put(params.collection!, key, patch, 'merge');
    return json({ record: await yucca.records.get(params.collection!, key) }).noting({ key, did });
  });

  const DELETE = route('write', async (context) => {
    const { params, yucca } = context;
    const key = keyIn(context);
    if ((await yucca.records.remove(params.collection!, [key])) === 0)
      throw new Failure('not-found', `“${params.collection}” has no record with the key “${key}”.`);
    return new Reply(null, { status: 204 }).noting({ key });
  });

  return { GET, PUT, PATCH, DELETE, ...refuseOthers('GET', 'PUT', 'PATCH', 'DELETE') };
}
