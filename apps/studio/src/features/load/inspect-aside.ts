import type { Inspection, InspectOptions } from '@/inspect/inspect-file';
import type { InspectQuestion } from './inspect.worker';

/**
 * Looks at a file in a thread of its own: a large workbook takes seconds, and the page must not stand still for them.
 * Rejects when the file cannot be read.
 */
export function inspectAside(file: File, how: InspectOptions = {}): Promise<Inspection> {
  const worker = new Worker(new URL('./inspect.worker.ts', import.meta.url), { type: 'module' });
  return new Promise<Inspection>((resolve, reject) => {
    worker.onmessage = ({ data }: MessageEvent<{ inspection: Inspection } | { failed: string }>) =>
      'inspection' in data ? resolve(data.inspection) : reject(new Error(data.failed));
    worker.onerror = ({ message }) => reject(new Error(message));
    worker.postMessage({ file, how } satisfies InspectQuestion);
  }).finally(() => worker.terminate());
}
