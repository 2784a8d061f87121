import type Database from 'better-sqlite3';

/**
 * How often each content came in one load, so that rows that are alike get keys of their own. It is kept in a table
 * that lives with the connection, on the disk when it grows: a load of any length fits into the same memory, and a
 * transaction that is rolled back takes its counts with it.
 */
export class AssignedKeys {
  static #made = 0;
  readonly #client: Database.Database;
  readonly #table = `assigned_keys_${++AssignedKeys.#made}`;
  readonly #count;

  constructor(client: Database.Database) {
    this.#client = client;
    client.exec(`create temp table ${this.#table} (hash text primary key, times integer not null) without rowid`);
    this.#count = client.prepare<[string], { times: number }>(
      `insert into temp.${this.#table} values (?, 1) on conflict do update set times = times + 1 returning times`,
    );
  }

  /** A key for a row of this content: the hash itself, then `hash-2`, `hash-3`. */
  next(hash: string): string {
    const { times } = this.#count.get(hash)!;
    return times === 1 ? hash : `${hash}-${times}`;
  }

  close(): void {
    this.#client.exec(`drop table temp.${this.#table}`);
  }
}
