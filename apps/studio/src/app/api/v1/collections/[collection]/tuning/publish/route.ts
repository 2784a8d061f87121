import { readJson } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { Failure } from '@/server/failure';

export const POST = route('admin', async ({ request, params, yucca }) => {
  const body = request.headers.has('content-type') ? ((await readJson(request)) as { note?: unknown } | null) : {};
  const note = body?.note ?? null;
  if (note !== null && (typeof note !== 'string' || note.length > 1000)) {
    const detail = 'must be text of at most 1 000 characters';
    throw new Failure('invalid', `note ${detail}.`, [{ pointer: '/note', detail }]);
  }
  const name = params.collection!;
  const before = yucca.collections.get(name).liveVersion;
  const version = await yucca.tunings.publish(name, note);
  return json({ version }).noting({ from: before, to: version, note });
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
