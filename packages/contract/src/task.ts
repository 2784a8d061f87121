import type { FeedComparison, FeedRepair } from './feeds.ts';
import { as, count, listOf, moment, object, oneOf, orNull, ref, saying, text, yesOrNo, type Of } from './schema-of.ts';

const taskErrorSchema = object(
  {
    /** Of the input, from 1. */
    line: count,
    id: text,
    pointer: text,
    detail: text,
    /** The line itself, shortened. */
    text,
  },
  'line',
  'id',
  'pointer',
  'text',
);

export type TaskError = Of<typeof taskErrorSchema>;

const taskStateSchema = oneOf('queued', 'running', 'done', 'failed', 'cancelled');

export type TaskState = Of<typeof taskStateSchema>;

/** Work that goes on after the request that asked for it. */
export const taskSchema = object(
  {
    id: text,
    kind: oneOf('load', 'repair', 'index', 'backup', 'check', 'feed-compare', 'feed-repair'),
    /** Empty for what concerns all of them. */
    collection: text,
    state: taskStateSchema,
    /** Rows expected, estimated from the bytes while the input is still arriving. */
    total: count,
    /** Rows stored: they survive a crash from here on. */
    done: count,
    failed: count,
    /** Rows whose key an earlier row of the same load had; the last one was kept. */
    repeated: saying('Rows whose key an earlier row of the same load had.', count),
    /** repair: records that were changed. */
    changed: saying('repair: records that were changed.', count),
    /** The failed lines are kept whole and can be fetched. */
    failedKept: saying('The failed lines can be fetched at /tasks/{id}/failed.', yesOrNo),
    /** The first hundred. */
    errors: listOf(taskErrorSchema),
    /** What the work is busy with, in a few words. */
    step: text,
    /** backup: the name of the folder. */
    backup: saying('backup: the name of its folder.', text),
    result: saying(
      'feed-compare, feed-repair: what was found, or done.',
      as<FeedComparison | FeedRepair>({ anyOf: [ref('FeedComparison'), ref('FeedRepair')] }),
    ),
    startedAt: moment,
    endedAt: orNull(moment),
  },
  'changed',
  'failedKept',
  'backup',
  'result',
);

export type Task = Of<typeof taskSchema>;
