import Database from 'better-sqlite3';
import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';

/** The folder is in use by another process. */
export class FolderTaken extends Error {
  override name = 'FolderTaken';
}

/**
 * Holds a data folder for this process. The lock is one of SQLite's own on a small database that is used for nothing
 * else: the system takes it away from a process that ends, however it ends, so that no lock of a dead one is ever in
 * the way.
 */
export class FolderLock {
  readonly #client: Database.Database;

  private constructor(client: Database.Database) {
    this.#client = client;
  }

  /** Throws a FolderTaken that names the holder; whatever the disk says when the folder cannot be written. */
  static take(dataDir: string): FolderLock {
    const client = new Database(path.join(dataDir, 'lock.sqlite'), { timeout: 0 });
    const holder = path.join(dataDir, 'lock.holder');
    try {
      client.exec('begin exclusive');
    } catch (error) {
      client.close();
      // Told by its code: the driver's class is another one wherever the driver is loaded once more.
      if ((error as { code?: string }).code?.startsWith('SQLITE_BUSY'))
        throw new FolderTaken(`The data folder ${dataDir} is in use by ${nameOf(holder)}. Two cannot share one.`);
      throw error;
    }
    writeFileSync(holder, `${process.pid}\n`);
    return new FolderLock(client);
  }

  release(): void {
    this.#client.close();
  }
}

function nameOf(holder: string): string {
  try {
    return `process ${readFileSync(holder, 'utf8').trim()}`;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return 'another process';
    throw error;
  }
}
