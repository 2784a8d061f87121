/** What the log of a PostgreSQL server tells of keys (logical decoding, output of pgoutput). */
import { LIMITS } from '@yucca/contract';
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

/** Bytes of an entry of the log that are looked at; a longer one is of a row that could be no record. */
export const MOST_LOGGED = LIMITS.recordBytes * 2;

/** Reads the log piece by piece, and tells of each transaction the keys that changed in it once it was committed. */
export class KeyLog {
  /** Where the last transaction ends that is whole; what follows is read again. */
  upTo: string | null = null;
  /** All rows have to be read: the table was truncated, or the key of a change stands behind what is looked at. */
  isLost = false;
  readonly #keyColumn: string;
  readonly #plugin = new PgoutputPlugin({ protoVersion: 1, publicationNames: [] });
  /** Keys of the transaction that is being read: of several changes of one the last is enough. */
  #open = new Map<string, number>();
  #n = 0;

  constructor(keyColumn: string) {
    this.#keyColumn = keyColumn;
  }

  /** What the transactions have changed that end in these entries. */
  add(rows: readonly { lsn: string; data: Buffer }[]): KeyChange[] {
    const changes: KeyChange[] = [];
    for (const { lsn, data } of rows) {
      const message = this.#parsed(data);
      if (message === null) continue;
      if (message.tag === 'begin') [this.#open, this.#n] = [new Map(), 0];
      else if (message.tag === 'insert') this.#note(message.new);
      else if (message.tag === 'update') {
        // The key before, when the key itself has changed.
        this.#note(message.key ?? message.old);
        this.#note(message.new);
      } else if (message.tag === 'delete') this.#note(message.key ?? message.old);
      else if (message.tag === 'truncate') this.isLost = true;
      else if (message.tag === 'commit') {
        const order = lsnNumber(message.commitLsn ?? lsn);
        // Rows are looked at as they are, so that the order within a transaction does not matter.
        for (const [key, at] of this.#open) changes.push({ key, order, event: `${order}/${at}` });
        this.#open = new Map();
        this.upTo = message.commitEndLsn ?? lsn;
      }
    }
    return changes;
  }

  #parsed(data: Buffer): Pgoutput.Message | null {
    try {
      return this.#plugin.parse(data) as Pgoutput.Message;
    } catch (error) {
      if (data.length < MOST_LOGGED) throw error;
      this.isLost = true;
      return null;
    }
  }

  #note(values: Record<string, unknown> | null): void {
    const value = values?.[this.#keyColumn];
    if (value !== null && value !== undefined) this.#open.set(String(value), this.#n++);
  }
}
