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

  /** How a collection differs from its source, whose records come as lines, or are asked for. Nothing is changed. */
  async compare(row: FeedRow, body: AsyncIterable<Uint8Array> | null): Promise<FeedComparison> {
    const { scan: scanThread, thread, rows } = this.#parts;
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
    for await (const { lines, key } of this.#linesFrom(row, body)) {
      if (target === null) await scan.call('compareBegin', [run, (target = { ...targetOf(row), keyIn: key })]);
      await scan.call('compareAdd', [run, lines]);
    }
    if (target === null) await scan.call('compareBegin', [run, targetOf(row)]);
    return scan.call('compareEnd', [run]);
  }

  /** Makes a collection what its source says, as far as it is asked for. See Repair. */
  async repair(row: FeedRow, body: AsyncIterable<Uint8Array> | null, order: RepairAsked): Promise<FeedRepair> {
    const { writer, indexManager, rows } = this.#parts;
    const run = randomUUID();
    let target: FeedTarget | null = null;
    for await (const { lines, key } of this.#linesFrom(row, body)) {
      if (target === null) await writer.call('feedRepairBegin', [run, { target: (target = { ...targetOf(row), keyIn: key }), ...order }]); // prettier-ignore
      await writer.call('feedRepairAdd', [run, lines]);
    }
    if (target === null) await writer.call('feedRepairBegin', [run, { target: targetOf(row), ...order }]);
    const told = await writer.call('feedRepairEnd', [run]);
    if (told.written + told.deleted > 0) {
      await indexManager.refresh(row.collectionId);
      // What was found before is not so any more.
      rows.set(row.id, { drift: null });
    }
    return told;
  }

  /** The records of a source, one JSON object a line: those that were sent, or those that it has now. */
  async *#linesFrom(
    row: FeedRow,
    body: AsyncIterable<Uint8Array> | null,
  ): AsyncGenerator<{ lines: string[]; key?: string }> {
    // prettier-ignore
    if (body !== null) {
      for await (const lines of linesOf(body)) yield { lines };
      return;
    }
    if (!isPulled(sourceOf(row)))
      throw new Failure('invalid', 'This source sends its changes itself: send all of its records, one JSON object a line.'); // prettier-ignore
    const { thread, loadDir, rows } = this.#parts;
    const reading = randomUUID();
    const order = { feedId: row.id, keyField: row.keyField, position: null, resume: null, whole: true, loadDir };
    try {
      await thread.call('open', [reading, rows.pulled(row), order]);
      for (;;) {
        const piece = await thread.call('next', [reading]);
        if ('end' in piece) return;
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
