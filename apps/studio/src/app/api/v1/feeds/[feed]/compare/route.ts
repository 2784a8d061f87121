import { recordsSent } from '@/http/input';
import { refuseOthers, route } from '@/http/route';
import { taskIdFrom, taskReply } from '@/http/task-reply';
import { requireNoLimits } from '@/server/keys/caller';

/**
 * Compares the collection with the records of its source, one a line, or with those it has now when none are sent, as a
 * task; changes nothing.
 */
export const POST = route('admin', ({ request, url, params, caller, yucca }) => {
  requireNoLimits(caller);
  return taskReply(url, () => yucca.feeds.compare(params.feed!, recordsSent(request), taskIdFrom(url)));
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
