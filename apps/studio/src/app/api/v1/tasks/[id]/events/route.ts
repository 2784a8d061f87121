import type { Task } from '@yucca/contract';
import { refuseOthers, route } from '@/http/route';
import { requireCollection } from '@/server/keys/caller';
import { isOver } from '@/server/tasks/tasks';

/** Progress of a task as Server-Sent Events: `progress` as it comes, `end` as the last. */
export const GET = route('write', ({ request, params, caller, yucca }) => {
  const id = params.id!;
  requireCollection(caller, yucca.tasks.get(id).collection);
  const encoder = new TextEncoder();
  let stop = (): void => {};
  const stream = new ReadableStream<Uint8Array>({
    start(controller) {
      const send = (task: Task): void => {
        controller.enqueue(
          encoder.encode(`event: ${isOver(task) ? 'end' : 'progress'}\ndata: ${JSON.stringify(task)}\n\n`),
        );
        if (!isOver(task)) return;
        stop();
        controller.close();
      };
      stop = yucca.tasks.watch(id, send);
      request.signal.addEventListener('abort', stop);
      // Headers leave with the first bytes.
      controller.enqueue(encoder.encode(': open\n\n'));
      send(yucca.tasks.get(id));
    },
    cancel: () => stop(),
  });
  return new Response(stream, {
    headers: { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-cache, no-transform' },
  });
});

export const { POST, PUT, PATCH, DELETE } = refuseOthers('GET');
