import { open, type FileHandle } from 'node:fs/promises';
import path from 'node:path';
import type { Db } from './open';

/** The write-ahead log as a file. */
export interface LogFile {
  /** Settles when all of it is on the disk. */
  datasync: () => Promise<void>;
  close: () => Promise<void>;
}

/** The log of a data folder, opened when it is first flushed. */
export function logFileIn(dataDir: string): LogFile {
  let handle: Promise<FileHandle> | null = null;
  return {
    datasync: async () => {
      handle ??= open(path.join(dataDir, 'yucca.sqlite-wal'), 'r+');
      try {
        await (await handle).datasync();
      } catch (error) {
        handle = null;
        throw error;
      }
    },
    close: async () => (await handle)?.close(),
  };
}

/**
 * Has what one connection commits flushed to the disk beside the event loop, for a connection that does not flush
 * itself (see openDb). A commit that waits for the disk holds up everybody whom the thread answers: a slow disk takes
 * half a second. What is to be acknowledged waits for `done` instead; what is committed meanwhile is flushed together.
 *
 * Commits are in the write-ahead log, which is flushed as a whole: of a power cut there is always left what was
 * committed up to some moment, by whichever connection, and nothing that came after it.
 */
export class Flushed {
  readonly #log: LogFile;
  readonly #changes: () => number;
  /** Rows that were changed, up to the last flush. */
  #upTo: number;
  #running: Promise<void> = Promise.resolve();
  #next: Promise<void> | null = null;

  constructor(db: Db, log: LogFile) {
    this.#log = log;
    const changes = db.$client.prepare<[], number>('select total_changes()').pluck();
    this.#changes = () => changes.get()!;
    this.#upTo = this.#changes();
  }

  /** Settles when all that was committed until now is on the disk. Rejects with what the disk says. */
  done(): Promise<void> {
    if (this.#changes() === this.#upTo) return Promise.resolve();
    // The one that is running may have begun before the last commit.
    this.#next ??= this.#running
      .catch(() => {})
      .then(() => {
        this.#next = null;
        return (this.#running = this.#flush());
      });
    return this.#next;
  }

  async #flush(): Promise<void> {
    const upTo = this.#changes();
    await this.#log.datasync();
    this.#upTo = upTo;
  }

  close(): Promise<void> {
    return this.#log.close();
  }
}
