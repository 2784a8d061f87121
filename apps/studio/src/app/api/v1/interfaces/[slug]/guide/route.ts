import { Reply } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { baseOf } from '@/http/visitor-address';
import { requireNoLimits } from '@/server/keys/caller';

/** How the page's collection is searched, for a colleague or an assistant. */
export const GET = route('admin', async ({ request, params, caller, yucca }) => {
  requireNoLimits(caller);
  const server = baseOf(request.headers, yucca.config.publicUrl);
  const text = await yucca.handovers.guide(params.slug!, server);
  return new Reply(text, { headers: { 'Content-Type': 'text/markdown; charset=utf-8' } });
});

export const { POST, PUT, PATCH, DELETE } = refuseOthers('GET');
