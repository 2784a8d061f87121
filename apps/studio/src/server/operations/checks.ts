import type { Task } from '@yucca/contract';
import { randomUUID } from 'node:crypto';
import type { Integrity } from '../storage/integrity';
import type { Tasks } from '../tasks/tasks';

export interface ChecksParts {
  tasks: Tasks;
  integrity: Integrity;
}

/** Checks of the database that somebody asked for, as tasks. */
export class Checks {
  readonly #tasks: Tasks;
  readonly #integrity: Integrity;

  constructor({ tasks, integrity }: ChecksParts) {
    this.#tasks = tasks;
    this.#integrity = integrity;
  }

  begin(): { task: Task; ended: Promise<Task> } {
    const id = randomUUID();
    this.#tasks.begin(id, 'check', '', () => {});
    this.#tasks.update(id, { step: 'checking' });
    const ended = this.#integrity.check().then(
      ({ state, problems }) =>
        this.#tasks.end(id, {
          state: state === 'ok' ? 'done' : 'failed',
          errors: problems.map((detail) => ({ detail })),
        }),
      (error: Error) => this.#tasks.end(id, { state: 'failed', errors: [{ detail: error.message }] }),
    );
    return { task: this.#tasks.get(id), ended };
  }
}
