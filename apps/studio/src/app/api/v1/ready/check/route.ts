import { refuseOthers, route } from '@/http/route';
import { taskReply } from '@/http/task-reply';
import { requireNoLimits } from '@/server/keys/caller';

/** Checks the database from end to end, as a task. */
export const POST = route('admin', ({ url, caller, yucca }) => {
  requireNoLimits(caller);
  return taskReply(url, () => yucca.checks.begin());
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
