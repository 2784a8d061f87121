import type { Readiness } from '@yucca/contract';
import type { Logger } from 'pino';
import { storageCodeOf, storageSentence } from './storage-failure';

export interface StorageHealthParts {
  log: Pick<Logger, 'warn' | 'info'>;
  /** Writes something small to the disk; rejects when the disk refuses. */
  tryWriting: () => Promise<void>;
  /** Called when the disk takes what is written again. */
  onRecovered: () => void;
}

const TRY_EVERY_MS = 2_000;

/** Whether the disk takes what is written. Once it has refused, it is tried again until it does. */
export class StorageHealth {
  readonly #parts: StorageHealthParts;
  #refused: { reason: string; since: string } | null = null;
  #timer: ReturnType<typeof setTimeout> | undefined;

  constructor(parts: StorageHealthParts) {
    this.#parts = parts;
  }

  get state(): Readiness['storage'] {
    const { reason = null, since = null } = this.#refused ?? {};
    return { state: this.#refused === null ? 'ok' : 'refusing', reason, since };
  }

  /** Takes note of an error when it was the disk that refused. Returns whether it was. */
  heard(error: unknown): boolean {
    const code = storageCodeOf(error);
    // A database that is busy is no disk that refuses.
    if (code === null || code.startsWith('SQLITE_BUSY')) return false;
    if (this.#refused === null) {
      this.#refused = { reason: storageSentence(code), since: new Date().toISOString() };
      this.#parts.log.warn({ code }, 'the disk refuses what is written');
      this.#again();
    }
    return true;
  }

  #again(): void {
    this.#timer = setTimeout(() => {
      this.#parts.tryWriting().then(
        () => {
          this.#refused = null;
          this.#parts.log.info('the disk takes what is written again');
          this.#parts.onRecovered();
        },
        (error: unknown) => {
          const code = storageCodeOf(error);
          if (code !== null && this.#refused !== null) this.#refused.reason = storageSentence(code);
          this.#again();
        },
      );
    }, TRY_EVERY_MS).unref();
  }

  close(): void {
    clearTimeout(this.#timer);
  }
}
