import { isTrue } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';

/** Asks the source now. Answers when it has begun, or with `wait=true` at its end. */
export const POST = route('admin', async ({ url, params, caller, yucca }) => {
  requireNoLimits(caller);
  const order = { by: 'hand' as const, whole: isTrue(url, 'whole'), confirmed: isTrue(url, 'confirm') };
  const run = await yucca.feeds.run(params.feed!, order, isTrue(url, 'wait'));
  return json(run, { status: run.state === 'running' ? 202 : 200 }).noting({ run: run.number });
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
