import type { FeedComparison, FeedDrift, FeedRepair, PostgresSource, RepairKind } from '@yucca/contract';
import { randomUUID } from 'node:crypto';
import type { Logger } from 'pino';
import { Failure } from '../failure';
import type { IndexManager } from '../index/index-manager';
import type { FeedMethods } from '../workers/feed-worker';
import { isRemoteError, isThreadLost, type RemoteThread, type ThreadOnDemand } from '../workers/rpc';
import type { ScanMethods } from '../workers/scan-worker';
import type { WriterMethods } from '../workers/writer-worker';
import type { FeedTarget } from './apply-changes';
import { sourceOf, targetOf, type FeedRow, type FeedRows } from './feed-rows';
import { linesOf } from './lines-of';
import { nextPiece } from './next-piece';
import { isPulled } from './sources/source';

interface Parts {
  rows: FeedRows;
  indexManager: Pick<IndexManager, 'refresh'>;
  writer: Pick<RemoteThread<WriterMethods>, 'call'>;
  scan: () => Pick<RemoteThread<ScanMethods>, 'call'>;
  thread: Pick<ThreadOnDemand<FeedMethods>, 'call'>;
  loadDir: string | null;
  log: Pick<Logger, 'error'>;
}

export interface RepairAsked {
  what: readonly RepairKind[];
  asOf: number;
  confirmed: boolean;
}

/** Follows a comparison or a repair, and may break it off. */
export interface Watch {
  signal: AbortSignal;
  /** So many more lines of the source were dealt with. */
  onLines: (lines: number) => void;
}

const NOBODY: Watch = { signal: new AbortController().signal, onLines: () => {} };

/** It is looked so often whether a feed is to be compared. */
const LOOK_EVERY_MS = 30_000;

/** Finds how collections differ from their sources, when somebody asks and by itself, and makes them the same. */
export class Reconciliation {
  readonly #parts: Parts;
  #timer: ReturnType<typeof setInterval> | undefined;
  #checking = false;

  constructor(parts: Parts) {
    this.#parts = parts;
  }

  /** Compares feeds by themselves from now on. */
  start(): void {
    this.#timer = setInterval(() => void this.checkDue(), LOOK_EVERY_MS).unref();
  }

  close(): void {
    clearInterval(this.#timer);
  }

  /**
   * How a collection differs from its source, whose records come as lines, or are asked for. Without lines a source
   * that sends is compared by what its events told last. Nothing is changed. Throws what `watch` aborts with.
   */
  async compare(row: FeedRow, body: AsyncIterable<Uint8Array> | null, watch: Watch = NOBODY): Promise<FeedComparison> {
    const { scan: scanThread, thread, rows } = this.#parts;
    if (body === null && !isPulled(sourceOf(row))) return scanThread().call('localComparison', [targetOf(row)]);
    if (body === null && sourceOf(row).kind === 'postgres') {
      try {
        // Its server hashes the rows itself: they need not be moved.
        return await thread.call('compareByPrints', [rows.pulled(row) as PostgresSource, { ...targetOf(row), keyIn: (sourceOf(row) as PostgresSource).key }]); // prettier-ignore
      } catch (error) {
        throw asFailure(error);
      }
    }
    const scan = scanThread();
    const run = randomUUID();
    let target: FeedTarget | null = null;
    for await (const { lines, key } of this.#linesFrom(row, body, watch.signal)) {
      if (target === null) await scan.call('compareBegin', [run, (target = { ...targetOf(row), keyIn: key })]);
      await scan.call('compareAdd', [run, lines]);
      watch.onLines(lines.length);
    }
    watch.signal.throwIfAborted();
    if (target === null) await scan.call('compareBegin', [run, targetOf(row)]);
    return scan.call('compareEnd', [run]);
  }

  /** Whether a repair knows what to write: a source that sends is not asked. */
  requireRecords(row: FeedRow, body: AsyncIterable<Uint8Array> | null): void {
    if (body !== null || isPulled(sourceOf(row))) return;
    throw new Failure('invalid', 'This source sends its changes itself: send all of its records, one JSON object a line.'); // prettier-ignore
  }

  /**
   * Makes a collection what its source says, as far as it is asked for. See Repair. Broken off by `watch`, or by a
   * source that fails, it deletes nothing, and what it has written until then stays and is found.
   */
  async repair(
    row: FeedRow,
    body: AsyncIterable<Uint8Array> | null,
    order: RepairAsked,
    watch: Watch,
  ): Promise<FeedRepair> {
    this.requireRecords(row, body);
    const { writer } = this.#parts;
    const run = randomUUID();
    let target: FeedTarget | null = null;
    try {
      for await (const { lines, key } of this.#linesFrom(row, body, watch.signal)) {
        if (target === null) await writer.call('feedRepairBegin', [run, { target: (target = { ...targetOf(row), keyIn: key }), ...order }]); // prettier-ignore
        await writer.call('feedRepairAdd', [run, lines]);
        watch.onLines(lines.length);
      }
    } catch (error) {
      if (target !== null) await this.#made(row, await writer.call('feedRepairStop', [run]));
      throw error;
    }
    if (target === null) await writer.call('feedRepairBegin', [run, { target: targetOf(row), ...order }]);
    return this.#made(row, await writer.call(watch.signal.aborted ? 'feedRepairStop' : 'feedRepairEnd', [run]));
  }

  /** What a repair has changed can be searched, and what was found before is not so any more. */
  async #made(row: FeedRow, told: FeedRepair): Promise<FeedRepair> {
    if (told.written + told.deleted === 0) return told;
    await this.#parts.indexManager.refresh(row.collectionId);
    this.#parts.rows.set(row.id, { drift: null });
    return told;
  }

  /** The records of a source, one JSON object a line: those that were sent, or those that it has now. */
  async *#linesFrom(
    row: FeedRow,
    body: AsyncIterable<Uint8Array> | null,
    signal: AbortSignal,
  ): AsyncGenerator<{ lines: string[]; key?: string }> {
    if (body !== null) {
      for await (const lines of linesOf(body)) {
        if (signal.aborted) return;
        yield { lines };
      }
      return;
    }
    const { thread, loadDir, rows } = this.#parts;
    const reading = randomUUID();
    const order = { feedId: row.id, keyField: row.keyField, position: null, resume: null, whole: true, loadDir };
    try {
      await thread.call('open', [reading, rows.pulled(row), order]);
      for (;;) {
        const piece = await nextPiece(thread, reading, signal);
        if (piece === null || 'end' in piece) return;
        // A line that could not be read is none that can be compared.
        const lines = piece.batch.records.map((line) => ('json' in line ? line.json : line.error));
        yield { lines, key: piece.batch.key };
      }
    } catch (error) {
      throw asFailure(error);
    } finally {
      await thread.call('close', [reading]);
    }
  }

  /** Compares the feeds that are due, one after the other. */
  async checkDue(now = Date.now()): Promise<void> {
    if (this.#checking) return;
    this.#checking = true;
    try {
      for (const row of this.#parts.rows.list()) {
        const last =
          row.drift === null ? Date.parse(row.createdAt) : Date.parse((JSON.parse(row.drift) as FeedDrift).at);
        if (row.state === 'paused' || row.checkEveryS === null || now - last < row.checkEveryS * 1_000) continue;
        const drift = await this.#check(row).catch((error: Error) => {
          // A source that cannot be reached is told by its runs.
          if (!isRemoteError(error) && !isThreadLost(error)) this.#parts.log.error({ feed: row.id, error: error.message }, 'a feed could not be compared'); // prettier-ignore
          return null;
        });
        if (drift !== null) this.#parts.rows.set(row.id, { drift: JSON.stringify(drift) });
      }
    } finally {
      this.#checking = false;
    }
  }

  /**
   * What is found without moving the records: by hashes where the source makes them, else by what the feed itself has
   * written (a source that is read as a whole is compared by each of its runs).
   */
  async #check(row: FeedRow): Promise<FeedDrift> {
    if (sourceOf(row).kind !== 'postgres') return this.#parts.scan().call('localDrift', [targetOf(row)]);
    const { missing, different, extra } = await this.compare(row, null);
    return { at: new Date().toISOString(), missing, different, extra };
  }
}

/** What the feed thread says of a source, as a failure of the request. Anything else is a defect and goes on. */
export function asFailure(error: unknown, before = ''): unknown {
  if (!isRemoteError(error) || error.note.name !== 'SourceError') return error;
  return new Failure('invalid', before === '' ? error.message : `${before}: ${error.message}`);
}
