import Database from 'better-sqlite3';
import { drizzle, type BetterSQLite3Database } from 'drizzle-orm/better-sqlite3';
import { migrate } from 'drizzle-orm/better-sqlite3/migrator';
import { mkdirSync } from 'node:fs';
import path from 'node:path';
import { isFrozen } from '../storage/frozen-folder';
import * as feeds from './feeds-schema';
import * as insights from './insights-schema';
import * as tables from './schema';
import * as trials from './visitor-trials-schema';

const schema = { ...tables, ...insights, ...trials, ...feeds };

export type Db = BetterSQLite3Database<typeof schema> & { $client: Database.Database };

/**
 * Opens the database of a data folder. Every thread opens its own connection: the write-ahead log lets them read while
 * one writes, and a writer waits for another up to five seconds. Commits are flushed to the disk before they are
 * acknowledged, so that neither a killed process nor a power cut takes back an answer: with each commit
 * (`synchronous = FULL`), or, of a connection that shall not wait for a disk with each, by `Flushed`
 * (`flushes: false`).
 * `checkpoints`: whether it moves the log into the database now and then, which waits for the disk too.
 */
export function openDb(dataDir: string, { readonly = false, flushes = true, checkpoints = true } = {}): Db {
  mkdirSync(dataDir, { recursive: true });
  const client = new Database(path.join(dataDir, 'yucca.sqlite'), { readonly });
  client.pragma('busy_timeout = 5000');
  if (!readonly) {
    client.pragma('journal_mode = WAL');
    client.pragma(`synchronous = ${flushes ? 'FULL' : 'NORMAL'}`);
    if (!checkpoints) client.pragma('wal_autocheckpoint = 0');
    client.pragma('foreign_keys = ON');
    // The folder it is a copy of cannot be written: what is written here would be lost.
    if (isFrozen(dataDir)) client.pragma('query_only = ON');
  }
  return drizzle(client, { schema });
}

/** Brings the tables up to date. */
export function migrateDb(db: Db, migrationsDir: string): void {
  migrate(db, { migrationsFolder: migrationsDir });
}
