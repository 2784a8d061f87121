import { isTrue } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';

/** Checks the database from end to end, as a task. */
export const POST = route('admin', async ({ url, caller, yucca }) => {
  requireNoLimits(caller);
  const wait = isTrue(url, 'wait');
  const { task, ended } = yucca.checks.begin();
  if (wait) return json({ task: await ended });
  return json({ task }, { status: 202, headers: { Location: `/api/v1/tasks/${task.id}` } });
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
