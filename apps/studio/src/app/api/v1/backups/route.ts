import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { taskReply } from '@/http/task-reply';
import { requireNoLimits } from '@/server/keys/caller';
import { wholeList } from '@/server/list-page';

export const GET = route('admin', ({ caller, yucca }) => {
  requireNoLimits(caller);
  const items = yucca.backups.list();
  return json(wholeList(items));
});

/** Makes a consistent copy of everything in the folder of backups, as a task. */
export const POST = route('admin', ({ url, caller, yucca }) => {
  requireNoLimits(caller);
  return taskReply(
    url,
    () => yucca.backups.make(),
    ({ backup }) => ({ backup: backup ?? null }),
  );
});

export const { PUT, PATCH, DELETE } = refuseOthers('GET', 'POST');
