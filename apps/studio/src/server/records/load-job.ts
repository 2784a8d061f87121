import type { RecordJson, TaskError } from '@yucca/contract';
import { LIMITS } from '@yucca/contract';
import { createHash } from 'node:crypto';
import { once } from 'node:events';
import { PassThrough, pipeline, Transform, type Readable } from 'node:stream';
import { createGunzip } from 'node:zlib';
import { storageCodeOf, storageSentence } from '../storage/storage-failure';
import { isUnpackError } from '../unpack-error';
import type { AssignedKeys } from './assigned-keys';
import type { FailedLines } from './failed-lines';
import { ToUtf8 } from './to-utf8';
import { PARSERS } from './parsers';
import { nestDotted } from './parsers/nest';
import { excerpt, InputError, type Row } from './parsers/parser';
import { checkRecord, CollectionGone, keyOf, RecordError, type RecordStore, type WriteMode } from './record-store';

export interface LoadOptions {
  collectionId: number;
  keyField: string;
  mediaType: string;
  gzip: boolean;
  mode: WriteMode;
  /** Give a key to records without one: made from their content, so that the same file twice doubles nothing. */
  assignKeys: boolean;
  /** Open dotted names into objects. */
  nest: boolean;
  /** JSON: where the records are; see ParserOptions. */
  at: string | null;
  /** CSV: the line of its header; see ParserOptions. */
  header: number | null;
  /** What the input is written in, as its sender says; null = to be told from its beginning. */
  charset: string | null;
}

export interface LoadProgress {
  bytes: number;
  done: number;
  failed: number;
  repeated: number;
  errors: TaskError[];
  /** Failed rows are kept in a file. */
  failedKept: boolean;
  state: 'running' | 'done' | 'failed' | 'cancelled';
}

/** Rows written in one transaction: few enough that other writes wait some milliseconds only. */
const BATCH = 500;
/** And bytes of them: rows may be large. */
const BATCH_BYTES = 4 * 1024 * 1024;
const TELL_EVERY_MS = 200;
const INPUT_BUFFER = 1 << 20;
/** Unpacked bytes from which on it is looked how much an input was packed, and how much is too much. */
const RATIO_FROM = 64 * 1024 * 1024;
const MOST_RATIO = 200;

/** Where a load stands before its first row. */
export const nothingLoaded = (): LoadProgress => ({
  bytes: 0,
  done: 0,
  failed: 0,
  repeated: 0,
  errors: [],
  failedKept: false,
  state: 'running',
});

export interface LoadJob {
  /** Hands over bytes; settles when more may come. False: no more are wanted. */
  write(chunk: Uint8Array): Promise<boolean>;
  /** No more bytes; settles when every row is stored or counted as failed. `broken`: why there are no more. */
  end(broken: string | null): Promise<LoadProgress>;
  cancel(): void;
}

/** Whom a load tells, and what it waits for first. */
export interface LoadListener {
  /** Settles when all that was written until now is on the disk. */
  flushed: () => Promise<void>;
  onProgress: (progress: LoadProgress) => void;
}

/**
 * Starts reading an input into a collection. Rows are told of once the transaction that holds them is on the disk; at
 * the end it is the caller who waits for that. Whatever happens to the input, the end comes: with what was stored, and
 * why it stopped.
 */
export function startLoad(
  store: RecordStore,
  options: LoadOptions,
  failed: FailedLines,
  listener: LoadListener,
): LoadJob {
  const progress = nothingLoaded();
  const input = new PassThrough({ highWaterMark: INPUT_BUFFER });
  const loader = new Loader(store, options, failed, progress, listener, () => input.readableLength);
  const source = new ToUtf8(options.charset);
  pipeline(options.gzip ? unpacked(input, progress) : input, source, () => {});
  let over = false;
  const finished = loader.run(source).finally(() => {
    over = true;
    loader.close();
    progress.failedKept = failed.close();
    // The streams go with the load, however it ended; an error that comes now was told, or is of no use.
    for (const stream of [input, source]) stream.on('error', () => {}).destroy();
  });
  // Whoever asks for the end is told; until then nobody need be listening.
  finished.catch(() => {});
  return {
    async write(chunk) {
      progress.bytes += chunk.byteLength;
      if (over || loader.cancelled) return false;
      if (!input.write(chunk)) await Promise.race([once(input, 'drain'), finished]);
      return !over;
    },
    async end(broken) {
      loader.broken = broken;
      if (!over) input.end();
      await finished;
      return progress;
    },
    cancel() {
      loader.cancelled = true;
      // Ends the reading too when no more bytes come.
      input.destroy();
    },
  };
}

/** An input as it was before it was packed. More than any real file could be packed by ends it: that is a trap. */
function unpacked(input: Readable, progress: LoadProgress): Readable {
  let bytes = 0;
  const guard = new Transform({
    transform(chunk: Buffer, _, done) {
      bytes += chunk.length;
      const trap = bytes > RATIO_FROM && bytes > progress.bytes * MOST_RATIO;
      if (trap)
        done(
          new InputError(
            `The input unpacks to more than ${MOST_RATIO} times its size. Nothing real does; send it unpacked.`,
          ),
        );
      else done(null, chunk);
    },
  });
  pipeline(input, createGunzip(), guard, () => {});
  return guard;
}

class Loader {
  cancelled = false;
  broken: string | null = null;
  readonly #store: RecordStore;
  readonly #options: LoadOptions;
  readonly #failed: FailedLines;
  readonly #progress: LoadProgress;
  readonly #listener: LoadListener;
  /** Bytes that came and still wait in the pipe. */
  readonly #unread: () => number;
  readonly #firstVersionId: number;
  #assigned: AssignedKeys | null = null;
  #toldAt = 0;
  #over = false;
  #telling: ReturnType<typeof setTimeout> | null = null;

  constructor(
    store: RecordStore,
    options: LoadOptions,
    failed: FailedLines,
    progress: LoadProgress,
    listener: LoadListener,
    unread: () => number,
  ) {
    this.#store = store;
    this.#options = options;
    this.#failed = failed;
    this.#progress = progress;
    this.#listener = listener;
    this.#unread = unread;
    this.#firstVersionId = store.lastVersionId();
  }

  async run(source: Readable): Promise<void> {
    const progress = this.#progress;
    let batch: Row[] = [];
    let bytes = 0;
    try {
      for await (const row of PARSERS.get(this.#options.mediaType)!(source, this.#options)) {
        batch.push(row);
        bytes += row.bytes;
        if (batch.length < BATCH && bytes < BATCH_BYTES) continue;
        const full = batch;
        batch = [];
        bytes = 0;
        this.#write(full);
        // Between batches other messages get their turn: single writes, cancelling, the next bytes.
        await new Promise((resolve) => setImmediate(resolve));
        if (this.cancelled) break;
      }
      this.#write(batch);
      progress.state = this.cancelled ? 'cancelled' : 'done';
    } catch (error) {
      this.#end(error, batch);
    }
    if (this.broken !== null && !this.cancelled && progress.state === 'done') {
      progress.state = 'failed';
      this.#error({ detail: this.broken });
    }
  }

  close(): void {
    this.#over = true;
    if (this.#telling !== null) clearTimeout(this.#telling);
    this.#assigned?.close();
  }

  /** The input ended otherwise than by its end. Throws what is nobody's fault but ours. */
  #end(error: unknown, batch: Row[]): void {
    const progress = this.#progress;
    progress.state = this.cancelled ? 'cancelled' : 'failed';
    const reason = this.#reasonOf(error);
    // What was read before the input broke off is good; unless it was the writing that failed.
    if (reason === null || reason.byInput) this.#write(batch);
    if (reason === null && !this.cancelled) throw error;
    if (reason !== null && !this.cancelled) this.#error({ detail: reason.detail });
  }

  #reasonOf(error: unknown): { detail: string; byInput: boolean } | null {
    if (error instanceof InputError) return { detail: error.message, byInput: true };
    if (isUnpackError(error))
      return this.broken !== null
        ? { detail: this.broken, byInput: true }
        : { detail: 'The input says it is gzip and cannot be unpacked.', byInput: true };
    if (error instanceof CollectionGone) return { detail: error.message, byInput: false };
    const code = storageCodeOf(error);
    return code === null
      ? null
      : { detail: `${storageSentence(code)} ${this.#progress.done} rows were stored before.`, byInput: false };
  }

  #write(rows: Row[]): void {
    const progress = this.#progress;
    const before = { ...progress, errors: [...progress.errors] };
    try {
      this.#store.transaction(this.#options.collectionId, () => {
        for (const row of rows) this.#writeRow(row);
      });
    } catch (error) {
      // The transaction was rolled back: none of its rows is stored.
      Object.assign(progress, before);
      throw error;
    }
    if (progress.failed + progress.done === before.failed + before.done) return;
    // The last one is told too: an input that pauses must not be taken for one that stands elsewhere.
    this.#telling ??= setTimeout(() => void this.#tell(), Math.max(0, this.#toldAt + TELL_EVERY_MS - Date.now()));
  }

  /** Tells how far it is, as soon as that is on the disk. What the disk refuses is told at the end. */
  async #tell(): Promise<void> {
    const { bytes, errors } = this.#progress;
    // What still waits in the pipe is not read yet, and must not count when rows are estimated from bytes.
    const now = { ...this.#progress, bytes: bytes - this.#unread(), errors: [...errors] };
    const isOnDisk = await this.#listener.flushed().then(
      () => true,
      (error: unknown) => {
        if (storageCodeOf(error) === null) throw error;
        return false;
      },
    );
    this.#telling = null;
    this.#toldAt = Date.now();
    if (isOnDisk && !this.#over) this.#listener.onProgress(now);
  }

  #writeRow(row: Row): void {
    const { collectionId, mode, nest } = this.#options;
    const progress = this.#progress;
    let id: string | undefined;
    try {
      if ('error' in row) throw new RecordError(row.error);
      const checked = checkRecord(row.value);
      const record = nest ? nestDotted(checked) : checked;
      const { key, complete } = this.#withKey(record);
      id = key;
      const outcome = this.#store.put(collectionId, key, complete, mode);
      if (outcome.oldVersionId > this.#firstVersionId) progress.repeated++;
      progress.done++;
    } catch (error) {
      // A stack that overflows on a record nested thousands of levels deep is that record's fault alone.
      if (!(error instanceof RecordError) && !(error instanceof RangeError)) throw error;
      progress.failed++;
      const detail = error instanceof RecordError ? error.message : 'the record is nested too deeply';
      this.#failed.keep(row);
      const text = excerpt(row.raw());
      this.#error({ line: row.line, ...(id === undefined ? {} : { id }), detail, ...(text === '' ? {} : { text }) });
    }
  }

  #withKey(record: RecordJson): { key: string; complete: RecordJson } {
    const { keyField, assignKeys } = this.#options;
    const key = keyOf(record, keyField);
    if (key !== null) return { key, complete: record };
    if (!assignKeys) throw new RecordError(`the key field "${keyField}" is absent or empty`);
    const hash = createHash('sha256').update(JSON.stringify(record)).digest('base64url').slice(0, 16);
    const made = (this.#assigned ??= this.#store.assignedKeys()).next(hash);
    return { key: made, complete: { ...record, [keyField]: made } };
  }

  #error(error: TaskError): void {
    if (this.#progress.errors.length < LIMITS.taskErrors) this.#progress.errors.push(error);
  }
}
