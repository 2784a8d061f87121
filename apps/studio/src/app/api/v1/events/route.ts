import { readJson } from '@/http/input';
import { json } from '@/http/reply';
import { preflight, refuseOthers, route } from '@/http/route';
import { validate } from '@/server/validate';

/** A page tells what its visitors do; nobody does more than this. */
const EVENTS_BYTES = 64 * 1024;
const CALLS_PER_MINUTE = 600;

/** `text/plain` too: `navigator.sendBeacon` sends that without asking first. */
export const POST = route('search', async ({ request, caller, yucca }) => {
  // By key and address: the key of a page is public, and one visitor must not silence the others.
  yucca.rates.take(`events/${caller.keyId ?? 'studio'}/${request.remote ?? 'unknown'}`, CALLS_PER_MINUTE);
  const { events } = validate('Events', await readJson(request, ['application/json', 'text/plain'], EVENTS_BYTES));
  const taken = yucca.visitorEvents.take(events);
  await yucca.flushed();
  return json({ taken }, { status: 202 });
});

export const OPTIONS = preflight;

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
