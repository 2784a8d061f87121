import { readNote } from '@/http/publishing';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';

export const POST = route('admin', async ({ request, params, yucca }) => {
  const note = await readNote(request);
  const name = params.collection!;
  const before = yucca.collections.get(name).liveVersion;
  const version = await yucca.tunings.publish(name, note);
  return json({ version }).noting({ from: before, to: version, note });
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
