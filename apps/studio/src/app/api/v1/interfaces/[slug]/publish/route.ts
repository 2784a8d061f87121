import { readNote } from '@/http/publishing';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';

export const POST = route('admin', async ({ request, params, caller, yucca }) => {
  requireNoLimits(caller);
  const note = await readNote(request);
  const { liveVersion: before } = yucca.interfaces.get(params.slug!);
  const version = yucca.interfaces.publish(params.slug!, note);
  return json({ version }).noting({ from: before, to: version, note });
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
