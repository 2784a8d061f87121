import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';

/** Files of this machine that may be loaded with `POST /collections/{c}/records?file=…`. */
export const GET = route('admin', async ({ caller, yucca }) => {
  requireNoLimits(caller);
  const items = await yucca.loadFiles.list();
  return json({ allowed: items !== null, items: items ?? [] });
});

export const { POST, PUT, PATCH, DELETE } = refuseOthers('GET');
