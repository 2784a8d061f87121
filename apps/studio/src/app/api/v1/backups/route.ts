import { isTrue } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';

export const GET = route('admin', ({ caller, yucca }) => {
  requireNoLimits(caller);
  const items = yucca.backups.list();
  return json({ items, total: items.length, page: 1, pages: 1, size: items.length });
});

/** Makes a consistent copy of everything in the folder of backups, as a task. */
export const POST = route('admin', async ({ url, caller, yucca }) => {
  requireNoLimits(caller);
  const wait = isTrue(url, 'wait');
  const { task, ended } = yucca.backups.make();
  const noted = { backup: task.backup ?? null };
  if (wait) return json({ task: await ended }).noting(noted);
  return json({ task }, { status: 202, headers: { Location: `/api/v1/tasks/${task.id}` } }).noting(noted);
});

export const { PUT, PATCH, DELETE } = refuseOthers('GET', 'POST');
