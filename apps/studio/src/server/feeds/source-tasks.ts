import type { FeedComparison, FeedRepair } from '@yucca/contract';
import { randomUUID } from 'node:crypto';
import type { Collections } from '../collections/collections';
import type { BegunTask, Tasks } from '../tasks/tasks';
import type { FeedRow } from './feed-rows';
import type { Reconciliation, RepairAsked, Watch } from './reconciliation';

interface Parts {
  tasks: Pick<Tasks, 'begin' | 'update' | 'end' | 'get'>;
  collections: Pick<Collections, 'row'>;
  reconciliation: Pick<Reconciliation, 'compare' | 'repair' | 'requireRecords'>;
}

type Body = AsyncIterable<Uint8Array> | null;

/** Comparisons and repairs that somebody asks for, as tasks: they can be watched and cancelled. */
export class SourceTasks {
  readonly #parts: Parts;

  constructor(parts: Parts) {
    this.#parts = parts;
  }

  /** `id`: of the task, when whoever asks has named it. */
  compare(row: FeedRow, body: Body, id: string = randomUUID()): Promise<BegunTask> {
    return this.#begin(id, 'feed-compare', row, body, (read, watch) =>
      this.#parts.reconciliation.compare(row, read, watch),
    );
  }

  async repair(row: FeedRow, body: Body, order: RepairAsked, id: string = randomUUID()): Promise<BegunTask> {
    const { reconciliation } = this.#parts;
    reconciliation.requireRecords(row, body);
    return this.#begin(id, 'feed-repair', row, body, (read, watch) => reconciliation.repair(row, read, order, watch));
  }

  /** Settles when the body has been read: until then what is wrong with it is an answer to the request. */
  async #begin(
    id: string,
    kind: 'feed-compare' | 'feed-repair',
    row: FeedRow,
    body: Body,
    work: (body: Body, watch: Watch) => Promise<FeedComparison | FeedRepair>,
  ): Promise<BegunTask> {
    const { tasks, collections } = this.#parts;
    const abort = new AbortController();
    tasks.begin(id, kind, row.collection, () => abort.abort());
    tasks.update(id, { total: collections.row(row.collection).records, step: 'reading the source' });
    let done = 0;
    const watch: Watch = {
      signal: abort.signal,
      onLines: (lines) => tasks.update(id, { done: (done += lines) }),
    };
    let broken: { error: unknown } | null = null;
    let onRead = (): void => {};
    const read = new Promise<void>((resolve) => (onRead = resolve));
    const ended = work(body && untilRead(body, onRead), watch).then(
      (result) => tasks.end(id, { state: abort.signal.aborted ? 'cancelled' : 'done', result }),
      (error: unknown) => {
        broken = { error };
        const isCancelled = abort.signal.aborted;
        return tasks.end(id, { state: isCancelled ? 'cancelled' : 'failed', errors: isCancelled ? [] : [{ detail: (error as Error).message }] }); // prettier-ignore
      },
    );
    if (body !== null) {
      const isRead = await Promise.race([read.then(() => true), ended.then(() => false)]);
      const { error } = (broken as { error: unknown } | null) ?? { error: null };
      if (!isRead && error !== null && !abort.signal.aborted) throw error;
    }
    return { task: tasks.get(id), ended };
  }
}

async function* untilRead(body: AsyncIterable<Uint8Array>, onRead: () => void): AsyncGenerator<Uint8Array> {
  yield* body;
  onRead();
}
