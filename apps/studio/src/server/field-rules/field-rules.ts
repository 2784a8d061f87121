import type { FieldRule, RuleEffect, Task } from '@yucca/contract';
import { isDatePattern } from '@yucca/engine/rules';
import { eq } from 'drizzle-orm';
import { randomUUID } from 'node:crypto';
import type { Collections } from '../collections/collections';
import type { Db } from '../db/open';
import { collections } from '../db/schema';
import { Failure } from '../failure';
import type { IndexManager } from '../index/index-manager';
import type { RepairProgress } from '../records/repair-job';
import type { Tasks } from '../tasks/tasks';
import type { WriterMethods } from '../workers/writer-worker';
import type { ScanMethods } from '../workers/scan-worker';
import type { RemoteThread } from '../workers/rpc';

export interface FieldRuleParts {
  db: Db;
  collections: Collections;
  indexManager: IndexManager;
  tasks: Tasks;
  writer: RemoteThread<WriterMethods>;
  scan: () => RemoteThread<ScanMethods>;
}

/** How the values of a collection's fields are read: by every write from now on, and, when asked, in what is here. */
export class FieldRules {
  readonly #parts: FieldRuleParts;

  constructor(parts: FieldRuleParts) {
    this.#parts = parts;
  }

  get(name: string): FieldRule[] {
    return JSON.parse(this.#parts.collections.row(name).fieldRules) as FieldRule[];
  }

  /** Stores the rules. Throws a Failure when a field has two, or the key would be changed. */
  set(name: string, rules: FieldRule[]): FieldRule[] {
    const { db } = this.#parts;
    const { id, keyField } = this.#parts.collections.row(name);
    const fields = rules.map(({ field }) => field);
    rules.forEach(({ field, as, from, format }, i) => {
      const refuse = (detail: string, part = 'field'): never => {
        throw new Failure('invalid', `“${field}” ${detail}.`, [{ pointer: `/rules/${i}/${part}`, detail }]);
      };
      if (fields.indexOf(field) < i) refuse('has two rules');
      if (field === keyField && as !== 'text') refuse('is the key: it stays text');
      if (from !== undefined && as !== 'position') refuse('is made of two fields: only a position is', 'from');
      if (from?.includes(field)) refuse('is made of two fields, and cannot be one of them', 'from');
      if (format !== undefined && as === 'date' && !isDatePattern(format))
        refuse(`is to be read by “${format}”, which is no pattern of a date`, 'format');
    });
    db.update(collections)
      .set({ fieldRules: JSON.stringify(rules) })
      .where(eq(collections.id, id))
      .run();
    return rules;
  }

  /** What a rule would do to the records that are here. */
  effect(name: string, rule: FieldRule): Promise<RuleEffect> {
    return this.#parts.scan().call('ruleEffect', [this.#parts.collections.row(name).id, rule]);
  }

  /** Brings the records that are here in line with the rules, as a task. */
  apply(name: string): { task: Task; ended: Promise<Task> } {
    const { tasks, writer, indexManager } = this.#parts;
    const { id: collectionId, records } = this.#parts.collections.row(name);
    const id = randomUUID();
    tasks.begin(id, 'repair', name, () => writer.send('repairCancel', [id]));
    tasks.update(id, { total: records, step: 'reading values anew' });
    const ended = writer
      .call('repair', [id, { collectionId, rules: this.get(name) }])
      .then(async ({ done, changed, cancelled }) => {
        tasks.update(id, { done, repeated: 0, step: 'indexing' });
        if (changed > 0) await indexManager.refresh(collectionId);
        return tasks.end(id, { state: cancelled ? 'cancelled' : 'done', changed });
      })
      .catch((error: Error) => tasks.end(id, { state: 'failed', errors: [{ detail: error.message }] }));
    return { task: tasks.get(id), ended };
  }

  /** What the writer says while it goes through the records. */
  onProgress(id: string, { done, changed }: RepairProgress): void {
    this.#parts.tasks.update(id, { done, changed });
  }
}
