import { json } from '@/http/reply';
import { refuseOthers, route, type RouteContext } from '@/http/route';
import { requireCollection } from '@/server/keys/caller';

function taskIn({ params, caller, yucca }: RouteContext) {
  const task = yucca.tasks.get(params.id!);
  requireCollection(caller, task.collection);
  return task;
}

export const GET = route('write', (context) => json({ task: taskIn(context) }));

export const DELETE = route('write', (context) =>
  json({ task: context.yucca.tasks.cancel(taskIn(context).id) }, { status: 202 }),
);

export const { POST, PUT, PATCH } = refuseOthers('GET', 'DELETE');
