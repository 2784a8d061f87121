import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';

/** The trial of the draft with visitors that runs, or the last one. */
export const GET = route('admin', ({ params, caller, yucca }) => {
  requireNoLimits(caller);
  return json(yucca.visitorTrials.read(params.collection!));
});

/** Begins one. */
export const POST = route('admin', async ({ params, caller, yucca }) => {
  requireNoLimits(caller);
  return json(await yucca.visitorTrials.start(params.collection!), { status: 201 });
});

/** Ends it. */
export const DELETE = route('admin', ({ params, caller, yucca }) => {
  requireNoLimits(caller);
  const ended = yucca.visitorTrials.stop(params.collection!);
  return json(ended).noting({ preferred: ended.preferred });
});

export const { PUT, PATCH } = refuseOthers('GET', 'POST', 'DELETE');
