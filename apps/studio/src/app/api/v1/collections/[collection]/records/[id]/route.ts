import { readJson } from '@/http/input';
import { refuseOthers, route, type RouteContext } from '@/http/route';
import { Failure } from '@/server/failure';

/** The key as the address has it: read off the raw path, so that %2F and %25 inside a key stay what they are. */
function keyIn({ url }: RouteContext): string {
  try {
    return decodeURIComponent(url.pathname.slice(url.pathname.lastIndexOf('/') + 1));
  } catch {
    throw new Failure('unreadable', 'The key in the address is not percent-encoded UTF-8.');
  }
}

export const GET = route('read', async (context) => {
  const { params, asking, yucca } = context;
  const record = await yucca.records.get(params.collection!, keyIn(context), asking.forcedFilter);
  return Response.json({ record });
});

export const PUT = route('write', async (context) => {
  const { request, params, yucca } = context;
  const key = keyIn(context);
  const { did } = await yucca.records.put(params.collection!, key, await readJson(request), 'replace');
  return Response.json(
    { record: await yucca.records.get(params.collection!, key) },
    { status: did === 'created' ? 201 : 200 },
  );
});

export const PATCH = route('write', async (context) => {
  const { request, params, yucca } = context;
  const key = keyIn(context);
  const patch = await readJson(request, ['application/merge-patch+json', 'application/json']);
  await yucca.records.put(params.collection!, key, patch, 'merge');
  return Response.json({ record: await yucca.records.get(params.collection!, key) });
});

export const DELETE = route('write', async (context) => {
  const { params, yucca } = context;
  const key = keyIn(context);
  if ((await yucca.records.remove(params.collection!, [key])) === 0) {
    throw new Failure('not-found', `“${params.collection}” has no record with the key “${key}”.`);
  }
  return new Response(null, { status: 204 });
});

export const { POST } = refuseOthers('GET', 'PUT', 'PATCH', 'DELETE');
