import type { Task } from '@yucca/contract';

/** A task that is asked for before it has begun is not there yet; then it is asked for again. */
const AGAIN_MS = 250;

/** Tells every state of a task as the server sends it (Server-Sent Events); returns what ends the watching. */
export function watchTask(id: string, onTask: (task: Task) => void): () => void {
  let over = false;
  let source: EventSource | null = null;
  let timer: ReturnType<typeof setTimeout> | null = null;
  const take = (event: MessageEvent<string>): void => {
    if (!over) onTask(JSON.parse(event.data) as Task);
  };
  const open = (): void => {
    source = new EventSource(`/api/v1/tasks/${id}/events`);
    source.addEventListener('progress', take);
    source.addEventListener('end', (event) => {
      take(event as MessageEvent<string>);
      source?.close();
    });
    source.onerror = () => {
      source?.close();
      if (!over) timer = setTimeout(open, AGAIN_MS);
    };
  };
  open();
  return () => {
    over = true;
    source?.close();
    if (timer !== null) clearTimeout(timer);
  };
}
