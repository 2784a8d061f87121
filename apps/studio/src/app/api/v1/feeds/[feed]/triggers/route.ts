import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';

/** The statements of the change log of a SQLite table, to be read before they are made. */
export const GET = route('admin', async ({ params, caller, yucca }) => {
  requireNoLimits(caller);
  return json(await yucca.feeds.triggers(params.feed!, false));
});

/** Makes the change log in the file of the source. */
export const POST = route('admin', async ({ params, caller, yucca }) => {
  requireNoLimits(caller);
  return json(await yucca.feeds.triggers(params.feed!, true));
});

export const { PUT, PATCH, DELETE } = refuseOthers('GET', 'POST');
