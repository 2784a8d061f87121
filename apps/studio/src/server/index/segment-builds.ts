import type { IndexPlan } from '@yucca/engine';
import { randomUUID } from 'node:crypto';
import { Failure } from '../failure';
import type { BuilderMethods, BuildProgress } from '../workers/builder-worker';
import { isThreadLost, type RemoteThread, type ThreadOnDemand } from '../workers/rpc';
import type { WriterMethods } from '../workers/writer-worker';
import type { BuildJob, BuiltSegment } from './build-segment';
import type { Built, Layers } from './layers';
import type { SegmentStore } from './segment-store';

/** What is in memory alone stays small: less than 100 ms of work. Past it, it becomes a segment. */
export const FRESH_RECORDS = 1_000;
/**
 * Of that, what is rebuilt with every write: a few milliseconds of work. Past it, all that is in memory is built as
 * one, beside the writes, so that a record is not built again with every write of its neighbours.
 */
export const NEWEST_RECORDS = 200;
/** What was written during a build is built after it, and so on: each time there is less of it. */
const MOST_PIECES = 6;
/** After a thread was lost over a build, it is tried again so many times. */
const TRIES = 3;
const RESTING_MS = 100;

/** A segment of a build in pieces. */
export interface Piece {
  built: Built;
  fromVersion: number;
}

export interface BuildThreads {
  writer: RemoteThread<WriterMethods>;
  /** For whole indexes: may be busy for minutes. */
  builder: ThreadOnDemand<BuilderMethods>;
  /** For what somebody waits for: segments of what was just written. */
  catchUp: ThreadOnDemand<BuilderMethods>;
  /** For what is in memory alone. */
  recent: ThreadOnDemand<BuilderMethods>;
}

export interface SegmentBuildsParts {
  threads: BuildThreads;
  store: SegmentStore;
  isOpen: (entry: Layers) => boolean;
}

/** Has segments built by the threads for it. A build whose thread is lost is begun again. */
export class SegmentBuilds {
  readonly #threads: BuildThreads;
  readonly #store: SegmentStore;
  readonly #isOpen: (entry: Layers) => boolean;
  /** Segments that are being built, with who wants to know how far they are. */
  readonly #running = new Map<string, ((records: number) => void) | null>();
  /** Records a second, as the last large build went; before the first, a careful guess. */
  rate = 10_000;

  /** `isOpen`: whether a collection is still there, in the very state that a build was begun for. */
  constructor({ threads, store, isOpen }: SegmentBuildsParts) {
    this.#threads = threads;
    this.#store = store;
    this.#isOpen = isOpen;
  }

  /** What a thread says while it builds. */
  onProgress({ segment, records }: BuildProgress): void {
    this.#running.get(segment)?.(records);
  }

  /** The ids of segments whose files may be half written. */
  get running(): ReadonlySet<string> {
    return new Set(this.#running.keys());
  }

  /** Builds all there is by a plan, in pieces: what is written during one is the next, until little is left. */
  async all(entry: Layers, plan: IndexPlan, onProgress?: (records: number) => void): Promise<Piece[]> {
    const pieces: Piece[] = [];
    let fromVersion = 0;
    do {
      const built = await this.segment(
        entry,
        'builder',
        { fromVersion, plan },
        pieces.length === 0 ? onProgress : undefined,
      );
      pieces.push({ built, fromVersion });
      fromVersion = built.toVersion;
    } while (
      pieces.length < MOST_PIECES &&
      this.#store.after(entry.collectionId, fromVersion, FRESH_RECORDS + 1).waiting > FRESH_RECORDS
    );
    return pieces;
  }

  /** Builds one segment and writes its file. */
  async segment(
    entry: Layers,
    thread: 'builder' | 'catchUp',
    range: Pick<BuildJob, 'fromVersion' | 'toVersion' | 'plan'>,
    onProgress?: (records: number) => void,
  ): Promise<Built> {
    const { collectionId, lastTombstone: sinceTombstone } = entry;
    const job: BuildJob = { collectionId, sinceTombstone, ...range };
    for (let tries = 1; ; tries++) {
      const id = randomUUID();
      this.#running.set(id, onProgress ?? null);
      try {
        const file = this.#store.file(collectionId, id);
        const { tookMs, ...built } = await this.#threads[thread].call('build', [job, file, id]);
        // The work alone: the thread may have had to be started, or had another build before this one.
        if (built.records >= FRESH_RECORDS) this.rate = built.records / (tookMs / 1000);
        if (this.#isOpen(entry)) return { id, ...built };
        this.throwAway(entry, [{ id }]);
        throw new Failure('not-found', 'The collection was deleted meanwhile.');
      } catch (error) {
        if (!isThreadLost(error) || tries === TRIES) throw error;
      } finally {
        this.#running.delete(id);
      }
    }
  }

  /** Builds a few records in memory, in the thread that has just written them. */
  fresh(job: BuildJob): Promise<BuiltSegment> {
    return this.#again(() => this.#threads.writer.call('buildFresh', [job]));
  }

  /** Builds all that is in memory, beside the writes: the thread that writes would be held up by it. */
  recent(job: BuildJob): Promise<BuiltSegment> {
    return this.#again(() => this.#threads.recent.call('inMemory', [job]));
  }

  async #again<T>(build: () => Promise<T>): Promise<T> {
    for (let tries = 1; ; tries++) {
      try {
        return await build();
      } catch (error) {
        if (!isThreadLost(error) || tries === TRIES) throw error;
        await new Promise((resolve) => setTimeout(resolve, tries * RESTING_MS));
      }
    }
  }

  /** Built segments that are of no use any more; with the last file of a deleted collection goes its folder. */
  throwAway(entry: Layers, built: readonly Pick<Built, 'id'>[]): void {
    for (const { id } of built) this.#store.removeFile(entry.collectionId, id);
    if (!this.#isOpen(entry)) this.#store.removeFolderIfEmpty(entry.collectionId);
  }
}
