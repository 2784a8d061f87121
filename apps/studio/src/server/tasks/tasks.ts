import type { Task } from '@yucca/contract';
import { desc, eq, inArray } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import { EventEmitter } from 'node:events';
import type { Db } from '../db/open';
import { tasks } from '../db/schema';
import { Failure } from '../failure';
import type { StorageHealth } from '../storage/storage-health';

interface Running {
  task: Task;
  cancel: () => void;
  ended: Promise<Task>;
  end: (task: Task) => void;
}

/** Work that goes on by itself. */
export interface BegunTask {
  task: Task;
  /** Its end, whichever it is: never rejected. */
  ended: Promise<Task>;
}

const OVER = new Set<Task['state']>(['done', 'failed', 'cancelled']);

/** Whether a task has come to its end. */
export function isOver({ state }: Task): boolean {
  return OVER.has(state);
}

export interface TasksParts {
  db: Db;
  storage: Pick<StorageHealth, 'heard'>;
}

/** Long work: what runs now, in memory; what ran, in the database. */
export class Tasks {
  readonly #db: Db;
  readonly #storage: Pick<StorageHealth, 'heard'>;
  readonly #running = new Map<string, Running>();
  /** The newest ends, for the time when the disk did not take them. */
  readonly #ended = new LRUCache<string, Task>({ max: 200 });
  readonly #changes = new EventEmitter().setMaxListeners(0);

  constructor({ db, storage }: TasksParts) {
    this.#db = db;
    this.#storage = storage;
    this.#closeInterrupted();
  }

  /** Tasks that ran when the process was killed are over; what they had stored is kept. */
  #closeInterrupted(): void {
    const rows = this.#db
      .select()
      .from(tasks)
      .where(inArray(tasks.state, ['queued', 'running']))
      .all();
    for (const row of rows) {
      const task = JSON.parse(row.task) as Task;
      this.#save({
        ...task,
        state: 'failed',
        endedAt: new Date().toISOString(),
        step: 'interrupted',
        errors: [
          ...task.errors,
          {
            detail:
              'Yucca was stopped while this ran. Every row stored until then is kept; load the file again for the rest.',
          },
        ],
      });
    }
  }

  #save(task: Task): void {
    const row = {
      collection: task.collection,
      state: task.state,
      task: JSON.stringify(task),
      startedAt: task.startedAt,
    };
    try {
      this.#db
        .insert(tasks)
        .values({ id: task.id, ...row })
        .onConflictDoUpdate({ target: tasks.id, set: row })
        .run();
    } catch (error) {
      // A task comes to its end on a full disk too; it is only not remembered after a restart.
      if (!this.#storage.heard(error)) throw error;
    }
  }

  /** Begins a task. `cancel` is called when somebody asks for it. */
  begin(id: string, kind: Task['kind'], collection: string, cancel: () => void): Task {
    const known = this.#running.has(id) || this.#db.select({ id: tasks.id }).from(tasks).where(eq(tasks.id, id)).get();
    if (known) throw new Failure('conflict', `There is already a task ${id}.`);
    const task: Task = {
      id,
      kind,
      collection,
      state: 'running',
      total: 0,
      done: 0,
      failed: 0,
      repeated: 0,
      errors: [],
      step: 'reading',
      startedAt: new Date().toISOString(),
      endedAt: null,
    };
    let end: (task: Task) => void = () => {};
    const ended = new Promise<Task>((resolve) => (end = resolve));
    this.#running.set(id, { task, cancel, ended, end });
    this.#save(task);
    return task;
  }

  /** Changes a running task and tells its watchers. */
  update(id: string, change: Partial<Task>): void {
    const running = this.#running.get(id);
    if (!running) return;
    running.task = { ...running.task, ...change };
    this.#changes.emit(id, running.task);
  }

  end(id: string, change: Partial<Task> & { state: Task['state'] }): Task {
    this.update(id, { ...change, step: '', endedAt: new Date().toISOString() });
    const running = this.#running.get(id);
    if (!running) return this.get(id);
    this.#running.delete(id);
    this.#ended.set(id, running.task);
    this.#save(running.task);
    running.end(running.task);
    this.#changes.emit(id, running.task);
    return running.task;
  }

  get(id: string): Task {
    const known = this.#running.get(id)?.task ?? this.#ended.get(id);
    if (known) return known;
    const row = this.#db.select().from(tasks).where(eq(tasks.id, id)).get();
    if (!row) throw new Failure('not-found', `There is no task ${id}.`);
    return JSON.parse(row.task) as Task;
  }

  /** How many run now. */
  get running(): number {
    return this.#running.size;
  }

  /** The newest tasks of a collection, or of all, running ones included. */
  list(collection: string | null, most = 20): Task[] {
    const rows = this.#db
      .select({ id: tasks.id })
      .from(tasks)
      .where(collection === null ? undefined : eq(tasks.collection, collection))
      .orderBy(desc(tasks.startedAt))
      .limit(most)
      .all();
    return rows.map(({ id }) => this.get(id));
  }

  cancel(id: string): Task {
    const task = this.get(id);
    this.#running.get(id)?.cancel();
    return task;
  }

  /** Calls back with every state of a task from now on; returns a function that stops it. */
  watch(id: string, onChange: (task: Task) => void): () => void {
    this.#changes.on(id, onChange);
    return () => this.#changes.off(id, onChange);
  }
}
