import type { RecordJson, TaskError } from '@yucca/contract';
import { LIMITS } from '@yucca/contract';
import { createHash } from 'node:crypto';
import { PassThrough, type Readable } from 'node:stream';
import { createGunzip } from 'node:zlib';
import type { FailedLines } from './failed-lines';
import { READERS } from './readers';
import { nestDotted } from './readers/nest';
import { excerpt, InputError, type Row } from './readers/reader';
import { checkRecord, keyOf, RecordError, type RecordStore, type WriteMode } from './record-store';

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
const TELL_EVERY_MS = 200;

export interface LoadJob {
  write(chunk: Uint8Array): Promise<void>;
  end(broken: string | null): Promise<LoadProgress>;
  cancel(): void;
}

/** Starts reading an input into a collection. Rows count as done once the transaction that holds them is on the disk. */
export function startLoad(
  store: RecordStore,
  options: LoadOptions,
  failed: FailedLines,
  onProgress: (progress: LoadProgress) => void,
): LoadJob {
  const progress: LoadProgress = {
    bytes: 0,
    done: 0,
    failed: 0,
    repeated: 0,
    errors: [],
    failedKept: false,
    state: 'running',
  };
  const input = new PassThrough({ highWaterMark: 1 << 20 });
  // What still waits in the pipe is not read yet, and must not count when rows are estimated from bytes.
  const loader = new Loader(store, options, failed, progress, (now) =>
    onProgress({ ...now, bytes: now.bytes - input.readableLength }),
  );
  const source: Readable = options.gzip ? input.pipe(createGunzip()) : input;
  let over = false;
  const finished = loader.run(source).finally(() => {
    over = true;
    progress.failedKept = failed.close();
    input.resume();
    input.emit('drain');
  });
  return {
    async write(chunk) {
      progress.bytes += chunk.byteLength;
      if (over || input.write(chunk)) return;
      await Promise.race([new Promise((resolve) => input.once('drain', resolve)), finished]);
    },
    async end(broken) {
      loader.broken = broken;
      input.end();
      await finished;
      return progress;
    },
    cancel() {
      loader.cancelled = true;
      input.end();
    },
  };
}

class Loader {
  cancelled = false;
  broken: string | null = null;
  readonly #store: RecordStore;
  readonly #options: LoadOptions;
  readonly #failed: FailedLines;
  readonly #progress: LoadProgress;
  readonly #onProgress: (progress: LoadProgress) => void;
  readonly #firstRid: number;
  readonly #assigned = new Map<string, number>();
  #toldAt = 0;

  constructor(
    store: RecordStore,
    options: LoadOptions,
    failed: FailedLines,
    progress: LoadProgress,
    onProgress: (progress: LoadProgress) => void,
  ) {
    this.#store = store;
    this.#options = options;
    this.#failed = failed;
    this.#progress = progress;
    this.#onProgress = onProgress;
    this.#firstRid = store.lastRid();
  }

  async run(source: Readable): Promise<void> {
    const progress = this.#progress;
    let batch: Row[] = [];
    try {
      for await (const row of READERS[this.#options.mediaType]!(source)) {
        batch.push(row);
        if (batch.length < BATCH) continue;
        this.#write(batch);
        batch = [];
        // Between batches other messages get their turn: single writes, cancelling, the next bytes.
        await new Promise((resolve) => setImmediate(resolve));
        if (this.cancelled) break;
      }
      this.#write(batch);
      progress.state = this.cancelled ? 'cancelled' : 'done';
    } catch (error) {
      progress.state = 'failed';
      // What was read before the input broke off is good.
      this.#write(batch);
      const gzip = this.#options.gzip && /header check|unexpected end/.test((error as Error).message);
      if (!(error instanceof InputError) && !gzip) throw error;
      this.#error({ detail: gzip ? 'The input says it is gzip and cannot be unpacked.' : (error as Error).message });
    }
    if (this.broken !== null && !this.cancelled) {
      progress.state = 'failed';
      this.#error({ detail: this.broken });
    }
  }

  #write(rows: Row[]): void {
    const progress = this.#progress;
    const before = { ...progress };
    this.#store.transaction(this.#options.collectionId, () => {
      for (const row of rows) this.#writeRow(row);
    });
    if (progress.failed + progress.done === before.failed + before.done) return;
    const now = Date.now();
    if (now - this.#toldAt < TELL_EVERY_MS) return;
    this.#toldAt = now;
    this.#onProgress(progress);
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
      if (outcome.oldRid > this.#firstRid) progress.repeated++;
      progress.done++;
    } catch (error) {
      // A stack that overflows on a record nested thousands of levels deep is that record's fault alone.
      if (!(error instanceof RecordError) && !(error instanceof RangeError)) throw error;
      progress.failed++;
      const detail = error instanceof RangeError ? 'the record is nested too deeply' : error.message;
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
    const times = (this.#assigned.get(hash) ?? 0) + 1;
    this.#assigned.set(hash, times);
    const made = times === 1 ? hash : `${hash}-${times}`;
    return { key: made, complete: { ...record, [keyField]: made } };
  }

  #error(error: TaskError): void {
    if (this.#progress.errors.length < LIMITS.taskErrors) this.#progress.errors.push(error);
  }
}
