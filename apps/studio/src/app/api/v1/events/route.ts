import { readJson } from '@/http/input';
import { preflight, refuseOthers, route } from '@/http/route';
import { validate } from '@/server/validate';

/** `text/plain` too: `navigator.sendBeacon` sends that without asking first. */
export const POST = route('search', async ({ request, yucca }) => {
  const { events } = validate('Events', await readJson(request, ['application/json', 'text/plain']));
  return Response.json({ taken: yucca.visitorEvents.take(events) }, { status: 202 });
});

export const OPTIONS = preflight;

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
