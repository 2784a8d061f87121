import { COLLECTIONS } from './operations/collections.ts';
import { FEEDS } from './operations/feeds.ts';
import { INSIGHTS } from './operations/insights.ts';
import { INTERFACES } from './operations/interfaces.ts';
import { JUDGEMENTS } from './operations/judgements.ts';
import { KEYS } from './operations/keys.ts';
import { RECORDS } from './operations/records.ts';
import { SEARCH } from './operations/search.ts';
import { TASKS } from './operations/tasks.ts';
import { TUNING } from './operations/tuning.ts';
import { UNDERSTANDING } from './operations/understanding.ts';
import type { Operation } from './operations/operation.ts';

export { GROUPS, type Content, type Operation, type QueryParameter } from './operations/operation.ts';

/** Everything the API does, group by group in the order of the work. The routes are checked against it. */
export const OPERATIONS: readonly Operation[] = [
  ...SEARCH,
  ...RECORDS,
  ...UNDERSTANDING,
  ...TUNING,
  ...COLLECTIONS,
  ...JUDGEMENTS,
  ...INSIGHTS,
  ...FEEDS,
  ...INTERFACES,
  ...KEYS,
  ...TASKS,
];
