import type { Task } from '@yucca/contract';
import { PassThrough } from 'node:stream';
import { Reply } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireCollection } from '@/server/keys/caller';
import { isOver } from '@/server/tasks/tasks';

/** Progress of a task as Server-Sent Events: `progress` as it comes, `end` as the last. */
export const GET = route('write', ({ request, params, caller, yucca }) => {
  const id = params.id!;
  requireCollection(caller, yucca.tasks.get(id).collection);
  const headers = { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-cache, no-transform' };
  if (request.method === 'HEAD') return new Reply(null, { headers });
  const stream = new PassThrough();
  const send = (task: Task): void => {
    // An end may be told twice; and whoever reads slowly is told the newest state only.
    if (stream.writableEnded || (!isOver(task) && stream.writableNeedDrain)) return;
    stream.write(`event: ${isOver(task) ? 'end' : 'progress'}\ndata: ${JSON.stringify(task)}\n\n`);
    if (isOver(task)) stream.end();
  };
  const stop = yucca.tasks.watch(id, send);
  stream.on('close', stop);
  // Headers leave with the first bytes.
  stream.write(': open\n\n');
  send(yucca.tasks.get(id));
  return new Reply(stream, { headers });
});

export const { POST, PUT, PATCH, DELETE } = refuseOthers('GET');
