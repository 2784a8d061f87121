import type { Task } from '@yucca/contract';
import { desc, eq, inArray } from 'drizzle-orm';
import { EventEmitter } from 'node:events';
import type { Db } from '../db/open';
import { tasks } from '../db/schema';
import { Failure } from '../failure';

interface Running {
  task: Task;
  cancel: () => void;
  ended: Promise<Task>;
  end: (task: Task) => void;
}

const OVER = new Set<Task['state']>(['done', 'failed', 'cancelled']);

/** Whether a task has come to its end. */
export function isOver({ state }: Task): boolean {
  return OVER.has(state);
}

/** Long work: what runs now, in memory; what ran, in the database. */
export class Tasks {
  readonly #db: Db;
  readonly #running = new Map<string, Running>();
  readonly #changes = new EventEmitter().setMaxListeners(0);

  constructor(db: Db) {
    this.#db = db;
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
    this.#db
      .insert(tasks)
      .values({ id: task.id, ...row })
      .onConflictDoUpdate({ target: tasks.id, set: row })
      .run();
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
    const running = this.#running.get(id)!;
    this.#running.delete(id);
    this.#save(running.task);
    running.end(running.task);
    this.#changes.emit(id, running.task);
    return running.task;
  }

  get(id: string): Task {
    const running = this.#running.get(id);
    if (running) return running.task;
    const row = this.#db.select().from(tasks).where(eq(tasks.id, id)).get();
    if (!row) throw new Failure('not-found', `There is no task ${id}.`);
    return JSON.parse(row.task) as Task;
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

  /** Calls back with every state of a task from now on; answers a function that stops it. */
  watch(id: string, onChange: (task: Task) => void): () => void {
    this.#changes.on(id, onChange);
    return () => this.#changes.off(id, onChange);
  }
}
