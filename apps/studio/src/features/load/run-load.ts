import type { Collection, FieldRule, FieldRules, Task } from '@yucca/contract';
import { ProblemError } from '@yucca/kit';
import { api } from '@/ui/api';
import { watchTask } from '@/ui/watch-task';

export interface LoadOrder {
  file: File;
  mediaType: string;
  name: string;
  /** The collection is new and is made first. */
  isNew: boolean;
  /** The key field; records without it get a key made from their content. */
  key: string;
  /** The file is packed with gzip. */
  gzip: boolean;
  /** Dotted names become objects. */
  nest: boolean;
  /** JSON: where the records are, a JSON Pointer; null = the document is a list of them, or one. */
  at: string | null;
  /** CSV: the line of its header, from 1; null = no table. */
  header: number | null;
  /** What the file is written in. */
  charset: string;
  /** How values are read, on top of the rules there are. */
  rules: FieldRule[];
}

async function addRules(name: string, rules: FieldRule[]): Promise<void> {
  const path = `/collections/${name}/field-rules`;
  const { rules: there } = await api<FieldRules>(path);
  const kept = there.filter(({ field }) => !rules.some((rule) => rule.field === field));
  await api(path, { method: 'PUT', json: { rules: [...kept, ...rules] } });
}

/**
 * Sends a file into a collection and reports the task while it runs. A collection that was made for it and got no
 * record is taken away again, so that a failed first try leaves nothing behind.
 */
export async function runLoad(
  { file, mediaType, name, isNew, key, gzip, nest, at, header, charset, rules }: LoadOrder,
  taskId: string,
  onProgress: (task: Task) => void,
): Promise<Task> {
  if (isNew) await api<Collection>('/collections', { method: 'POST', json: { name, key } });
  if (rules.length > 0) await addRules(name, rules);
  const stop = watchTask(taskId, onProgress);
  try {
    const place = at !== null ? `&at=${encodeURIComponent(at)}` : header !== null ? `&header=${header}` : '';
    const path = `/collections/${name}/records?assignKeys=true&nest=${nest}${place}&wait=true&task=${taskId}`;
    const headers = {
      'Content-Type': `${mediaType}; charset=${charset}`,
      ...(gzip ? { 'Content-Encoding': 'gzip' } : {}),
    };
    const { task } = await api<{ task: Task }>(path, { method: 'POST', body: file, headers });
    if (isNew && task.done === 0) await api(`/collections/${name}`, { method: 'DELETE' });
    return task;
  } catch (error) {
    if (isNew && error instanceof ProblemError) await api(`/collections/${name}`, { method: 'DELETE' }).catch(() => {});
    if (error instanceof ProblemError) throw error;
    throw new Error(
      'The connection to Yucca was lost while the file was being sent. Whatever had been stored is kept; drop the file again to load the rest.',
      { cause: error },
    );
  } finally {
    stop();
  }
}
