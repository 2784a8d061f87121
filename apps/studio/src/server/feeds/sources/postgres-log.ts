/** What the log of a PostgreSQL server tells of keys (logical decoding, output of pgoutput). */
import { PgoutputPlugin, type Pgoutput } from 'pg-logical-replication';

export interface KeyChange {
  key: string;
  /** By the place in the log at which its transaction was committed. */
  order: number;
  /** A name for it that stays the same when it is read again. */
  event: string;
}

/** A place in the log (16 digits of hexadecimal in two halves) as a number. Exact up to 8 PB of log. */
export function lsnNumber(lsn: string): number {
  const [high = '0', low = '0'] = lsn.split('/');
  return parseInt(high, 16) * 2 ** 32 + parseInt(low, 16);
}

/**
 * The keys that changed. `upTo`: where the last transaction ends that is whole; what follows is read again.
 * `isEmptied`: the table was truncated.
 */
export function changedKeys(
  rows: readonly { lsn: string; data: Buffer }[],
  keyColumn: string,
): { changes: KeyChange[]; upTo: string | null; isEmptied: boolean } {
  const plugin = new PgoutputPlugin({ protoVersion: 1, publicationNames: [] });
  const changes: KeyChange[] = [];
  let upTo: string | null = null;
  let isEmptied = false;
  let open: { key: string; n: number }[] = [];
  let n = 0;
  const add = (values: Record<string, unknown> | null): void => {
    const value = values?.[keyColumn];
    if (value !== null && value !== undefined) open.push({ key: String(value), n: n++ });
  };
  for (const { lsn, data } of rows) {
    const message = plugin.parse(data) as Pgoutput.Message;
    if (message.tag === 'begin') [open, n] = [[], 0];
    else if (message.tag === 'insert') add(message.new);
    else if (message.tag === 'update') {
      // The key before, when the key itself has changed.
      add(message.key ?? message.old);
      add(message.new);
    } else if (message.tag === 'delete') add(message.key ?? message.old);
    else if (message.tag === 'truncate') isEmptied = true;
    else if (message.tag === 'commit') {
      const order = lsnNumber(message.commitLsn ?? lsn);
      // Of several changes of a key in one transaction the last is enough: rows are looked at as they are.
      const last = new Map(open.map((one) => [one.key, one.n]));
      for (const [key, at] of last) changes.push({ key, order, event: `${order}/${at}` });
      upTo = message.commitEndLsn ?? lsn;
    }
  }
  return { changes, upTo, isEmptied };
}
