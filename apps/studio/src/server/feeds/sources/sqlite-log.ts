/** The change log of a table: what triggers note, and what follows from it. */
import { createHash } from 'node:crypto';
import type { FeedChange } from '../read-events';
import { quoted } from './sql-rows';

/** An entry of the log. */
export interface Logged {
  seq: number;
  key: unknown;
  op: 'write' | 'delete';
}

/** The name of the log of a feed, in its source's own database. */
export const logTableOf = (feedId: string): string =>
  `yucca_log_${createHash('sha256').update(feedId).digest('hex').slice(0, 12)}`;

/** The statements that make the log and its triggers; run twice they change nothing. */
export function triggersOf(feedId: string, table: string, key: string): string {
  const log = logTableOf(feedId);
  const note = (row: 'new' | 'old', op: Logged['op']): string =>
    `  insert into ${quoted(log)} (key, op) values (${row}.${quoted(key)}, '${op}');`;
  const trigger = (on: string, body: string[]): string =>
    [
      `create trigger if not exists ${quoted(`${log}_${on}`)} after ${on} on ${quoted(table)} begin`,
      ...body,
      'end;',
    ].join('\n');
  return [
    `create table if not exists ${quoted(log)} (seq integer primary key autoincrement, key, op text not null);`,
    trigger('insert', [note('new', 'write')]),
    // A row whose key changes is deleted under the old one.
    trigger('update', [
      `  insert into ${quoted(log)} (key, op) select old.${quoted(key)}, 'delete' where old.${quoted(key)} is not new.${quoted(key)};`,
      note('new', 'write'),
    ]),
    trigger('delete', [note('old', 'delete')]),
  ].join('\n\n');
}

/** The statements that take them away again. */
export function withoutTriggers(feedId: string): string {
  const log = logTableOf(feedId);
  return [
    ...['insert', 'update', 'delete'].map((on) => `drop trigger if exists ${quoted(`${log}_${on}`)};`),
    `drop table if exists ${quoted(log)};`,
  ].join('\n');
}

/**
 * What the entries of a log mean for records. The row is looked at now, not as it was then, so that of several entries
 * of a key the last one is enough.
 */
export function changesOf(
  entries: readonly Logged[],
  log: string,
  rowAt: (key: unknown) => string | null,
): FeedChange[] {
  const last = new Map(entries.map((entry) => [String(entry.key), entry]));
  return [...last.values()].map(({ seq, key }) => {
    const data = rowAt(key);
    const action = data === null ? 'delete' : 'upsert';
    return { source: log, event: String(seq), type: `row.${action}`, key: String(key), action, data, order: seq };
  });
}
