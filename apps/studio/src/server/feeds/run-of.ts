import type { FeedRun, FieldChange } from '@yucca/contract';
import type { RunRow } from './feed-rows';

/** A run as the API tells it. */
export function runOf(row: RunRow, now = Date.now()): FeedRun {
  const { number, state, by, whole, read, written, same, deleted, failed, total, asks, reason } = row;
  return {
    number,
    state,
    by,
    whole,
    startedAt: new Date(row.startedAt).toISOString(),
    endedAt: row.endedAt === null ? null : new Date(row.endedAt).toISOString(),
    read,
    written,
    same,
    deleted,
    failed,
    total,
    leftS: leftS(row, now),
    asks,
    reason,
    changes: JSON.parse(row.changes) as FieldChange[],
  };
}

/** A share of the records from which on it can be told how long the rest takes. */
const TOLD_FROM = 0.02;

function leftS({ state, total, read, startedAt }: RunRow, now: number): number | null {
  const share = total === null || total === 0 ? 0 : read / total;
  if (state !== 'running' || share < TOLD_FROM || share > 1) return null;
  return Math.round(((now - startedAt) / 1_000) * (1 / share - 1));
}
