import type { Task } from '@yucca/contract';
import { Failure } from '@/server/failure';
import type { BegunTask } from '@/server/tasks/tasks';
import { isTrue } from './input';
import { json, type Reply } from './reply';

const TASK_ID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** The name that a request gives its task, so that it can be watched while the body is still sent. */
export function taskIdFrom(url: URL): string | undefined {
  const id = url.searchParams.get('task') ?? undefined;
  if (id === undefined || TASK_ID.test(id)) return id;
  throw new Failure('invalid', 'task must be a UUID in lower case.', [{ pointer: '/task', detail: 'must be a UUID' }]);
}

/**
 * Begins work that goes on by itself: 202 and where to look how far it is, or with `wait=true` its end. `noted` is what
 * the audit trail says of it.
 */
export async function taskReply(
  url: URL,
  begin: () => BegunTask | Promise<BegunTask>,
  noted?: (task: Task) => Record<string, string | null>,
): Promise<Reply> {
  // What is wrong with the request is told before anything begins.
  const wait = isTrue(url, 'wait');
  const { task, ended } = await begin();
  const reply = wait
    ? json({ task: await ended })
    : json({ task }, { status: 202, headers: { Location: `/api/v1/tasks/${task.id}` } });
  return noted ? reply.noting(noted(task)) : reply;
}
