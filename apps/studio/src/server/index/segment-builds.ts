import { isUpToDate, type AddedColumns, type IndexPlan } from '@yucca/engine';
import { randomUUID } from 'node:crypto';
import { Failure } from '../failure';
import type { BuilderMethods, BuildProgress } from '../workers/builder-worker';
import { isThreadLost, type RemoteThread, type ThreadOnDemand } from '../workers/rpc';
import type { WriterMethods } from '../workers/writer-worker';
import { PART_FROM, type BuildJob, type BuiltSegment } from './build-segment';
import type { Added, Built, Layer, Layers, Piece } from './layers';
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

/** Records of a load from which on they are built while the others come. */
export const GROW_FROM = 5_000;

export interface BuildThreads {
  writer: RemoteThread<WriterMethods>;
  /** For whole indexes in the background: may be busy for minutes. */
  builder: ThreadOnDemand<BuilderMethods>;
  /** For what somebody waits for and takes long: as many as build side by side. */
  sideBySide: readonly ThreadOnDemand<BuilderMethods>[];
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

/** Which part of a collection's versions to build, and for what. */
type Range = Pick<BuildJob, 'fromVersion' | 'toVersion' | 'plan'>;

/** A segment that is being built while its records are still being written. */
interface Growing {
  id: string;
  fromVersion: number;
  plan: IndexPlan;
  thread: ThreadOnDemand<BuilderMethods>;
  /** Settles when it was told where it ends; null when it was dropped. */
  ended: Promise<Built | null>;
}

/** Has segments built by the threads for it. A build whose thread is lost is begun again. */
export class SegmentBuilds {
  readonly #threads: BuildThreads;
  readonly #store: SegmentStore;
  readonly #isOpen: (entry: Layers) => boolean;
  /** Segments that are being built, with who wants to know how far they are. */
  readonly #running = new Map<string, ((records: number) => void) | null>();
  /** By collection: what is built of a load while it comes. */
  readonly #growing = new Map<number, Growing>();
  /** Records a second, as the last large build went; before the first, a careful guess. */
  rate = 10_000;
  /** The same of one column that is added: of the records only its field is read. */
  columnRate = 200_000;

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

  /**
   * Builds all there is by a plan, in pieces: what is written during one is the next, until little is left.
   * `sideBySide`: somebody waits for it, so several threads share the work; each piece is then of several segments.
   */
  async all(
    entry: Layers,
    plan: IndexPlan,
    { sideBySide, onProgress }: { sideBySide: boolean; onProgress?: (records: number) => void },
  ): Promise<Piece[]> {
    const pieces: Piece[] = [];
    let fromVersion = 0;
    for (let rounds = 1; ; rounds++) {
      const told = rounds === 1 ? onProgress : undefined;
      const range = { fromVersion, plan };
      pieces.push(
        ...(sideBySide
          ? await this.shared(entry, this.#threads.builder, range, told)
          : [{ built: await this.segment(entry, this.#threads.builder, range, told), fromVersion }]),
      );
      fromVersion = pieces.at(-1)!.built.toVersion;
      const { waiting } = this.#store.after(entry.collectionId, fromVersion, FRESH_RECORDS + 1);
      if (rounds === MOST_PIECES || waiting <= FRESH_RECORDS) return pieces;
    }
  }

  /**
   * Builds what stands after a version, by several threads when it is much, and with what has been built of it while it
   * was written; a little by the one thread `alone`.
   */
  async shared(
    entry: Layers,
    alone: ThreadOnDemand<BuilderMethods>,
    { fromVersion, plan }: Pick<BuildJob, 'fromVersion' | 'plan'>,
    onProgress?: (records: number) => void,
  ): Promise<Piece[]> {
    const { collectionId } = entry;
    const grown = this.#takeGrowing(entry, fromVersion, plan);
    const { waiting, newest } = this.#store.after(collectionId, fromVersion, PART_FROM);
    const threads = this.#threads.sideBySide;
    if (grown === null && (threads.length < 2 || waiting < PART_FROM))
      return [{ built: await this.segment(entry, alone, { fromVersion, plan }, onProgress), fromVersion }];
    const start = performance.now();
    const told = sumOf(onProgress);
    const others = threads.filter((thread) => thread !== grown?.thread);
    const parts = grown === null ? threads.length : others.length + 1;
    const bounds = await this.#bounds(grown, { collectionId, fromVersion }, newest, parts);
    const ends = [...(bounds ?? []), newest];
    const build = (i: number, thread: ThreadOnDemand<BuilderMethods>): Promise<Built> => {
      const range = { fromVersion: i === 0 ? fromVersion : ends[i - 1]!, toVersion: ends[i]!, plan };
      return this.segment(entry, thread, range, told());
    };
    if (grown !== null && this.#running.has(grown.id)) this.#running.set(grown.id, told());
    const first = grown === null ? build(0, threads[0]!) : this.#grown(entry, grown, () => build(0, grown.thread));
    const rest = ends.slice(1).map((_, i) => build(i + 1, others[i + (grown === null ? 1 : 0)]!));
    const built = await allOrNone([first, ...rest], (done) => this.throwAway(entry, done));
    const records = built.reduce((sum, one) => sum + one.records, 0);
    if (grown === null) this.rate = records / ((performance.now() - start) / 1000);
    return built.map((one, i) => ({ built: one, fromVersion: i === 0 ? fromVersion : ends[i - 1]! }));
  }

  /** Where each part but the last ends; null when the thread was lost over it, and one is to do it all. */
  async #bounds(
    grown: Growing | null,
    job: Pick<BuildJob, 'collectionId' | 'fromVersion'>,
    newest: number,
    parts: number,
  ): Promise<number[] | null> {
    try {
      return await (grown === null
        ? this.#threads.sideBySide[0]!.call('bounds', [job, newest, parts])
        : grown.thread.call('growUpTo', [grown.id, newest, parts]));
    } catch (error) {
      if (!isThreadLost(error)) throw error;
      return null;
    }
  }

  /** A segment that has grown; when its thread was lost, built at once. */
  async #grown(entry: Layers, grown: Growing, again: () => Promise<Built>): Promise<Built> {
    const built = await grown.ended.catch((error: unknown) => {
      if (!isThreadLost(error)) throw error;
      return null;
    });
    if (built === null) return again();
    if (this.#isOpen(entry)) return built;
    this.throwAway(entry, [built]);
    throw new Failure('not-found', 'The collection was deleted meanwhile.');
  }

  /**
   * Builds what a load brings while it comes. Called whenever there is more; begins once there is enough of it. Whoever
   * needs a segment of just that takes it over.
   */
  grow(entry: Layers, fromVersion: number, plan: IndexPlan): void {
    const { collectionId, lastTombstone: sinceTombstone } = entry;
    const threads = this.#threads.sideBySide;
    const known = this.#growing.get(collectionId);
    if (known?.fromVersion === fromVersion && isUpToDate(known.plan, plan))
      return void known.thread.call('growOn', [known.id]).catch(() => {
        if (this.#growing.get(collectionId) === known) this.stopGrowing(entry);
      });
    this.stopGrowing(entry);
    // Of several loads at a time the others wait for their end.
    const isBusy = [...this.#growing.values()].some(({ thread }) => thread === threads[0]);
    if (threads.length < 2 || isBusy) return;
    if (this.#store.after(collectionId, fromVersion, GROW_FROM).waiting < GROW_FROM) return;
    const id = randomUUID();
    const job: BuildJob = { collectionId, fromVersion, sinceTombstone, plan };
    this.#running.set(id, null);
    const ended = threads[0]!
      .call('grow', [job, this.#store.file(collectionId, id), id])
      .then((saved) => saved && { id, ...saved })
      .finally(() => this.#running.delete(id));
    // Whoever takes it over is told; until then nobody need be listening.
    ended.catch(() => {
      if (this.#growing.get(collectionId)?.id === id) this.#forgetGrowing(entry);
    });
    entry.underWay++;
    this.#growing.set(collectionId, { id, fromVersion, plan, thread: threads[0]!, ended });
  }

  /** What is being built of a load is not wanted. */
  stopGrowing(entry: Layers): void {
    const one = this.#forgetGrowing(entry);
    one?.thread.call('growStop', [one.id]).catch(() => {});
  }

  #takeGrowing(entry: Layers, fromVersion: number, plan: IndexPlan): Growing | null {
    const one = this.#growing.get(entry.collectionId);
    const isWanted = one?.fromVersion === fromVersion && isUpToDate(one.plan, plan);
    return isWanted ? this.#forgetGrowing(entry) : null;
  }

  #forgetGrowing(entry: Layers): Growing | null {
    const one = this.#growing.get(entry.collectionId) ?? null;
    if (one !== null && this.#growing.delete(entry.collectionId)) entry.underWay--;
    return one;
  }

  /** Builds one segment and writes its file. */
  async segment(
    entry: Layers,
    thread: ThreadOnDemand<BuilderMethods>,
    range: Range,
    onProgress?: (records: number) => void,
  ): Promise<Built> {
    const { collectionId, lastTombstone: sinceTombstone } = entry;
    const job: BuildJob = { collectionId, sinceTombstone, ...range };
    return this.#file(entry, onProgress, async (file, id) => {
      const { tookMs, ...built } = await thread.call('build', [job, file, id]);
      // The work alone: the thread may have had to be started, or had another build before this one.
      if (built.records >= FRESH_RECORDS) this.rate = built.records / (tookMs / 1000);
      return { id, ...built };
    });
  }

  /** Makes the columns that a segment lacks and writes their file. `onProgress`: records read, once for each column. */
  columns(
    entry: Layers,
    { buffer, added, segment }: Layer,
    more: AddedColumns,
    onProgress: (records: number) => void,
  ): Promise<Added> {
    return this.#file(entry, onProgress, async (file, id) => {
      const files = { buffer, added: added.map((one) => one.buffer) };
      const { tookMs, ...made } = await this.#threads.builder.call('addColumns', [files, more, file, id]);
      const read = segment.docs * countOf(more);
      if (read >= FRESH_RECORDS) this.columnRate = read / (tookMs / 1000);
      return { id, ...made };
    });
  }

  /** Has a file made under a new name; once more when the thread for it is lost. */
  async #file<T>(
    entry: Layers,
    onProgress: ((records: number) => void) | undefined,
    make: (file: string, id: string) => Promise<T>,
  ): Promise<T> {
    for (let tries = 1; ; tries++) {
      const id = randomUUID();
      this.#running.set(id, onProgress ?? null);
      try {
        const made = await make(this.#store.file(entry.collectionId, id), id);
        if (this.#isOpen(entry)) return made;
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
    const ids = built.map(({ id }) => id);
    if (ids.length > 0) this.#store.removeFiles(entry.collectionId, ids);
    if (!this.#isOpen(entry)) this.#store.removeFolderIfEmpty(entry.collectionId);
  }
}

/** How often each record is read to make some columns; see buildColumnSegment. */
export const countOf = ({ columns, ordering, labels, geo }: AddedColumns): number =>
  columns.length + ordering.length + (labels.length + geo.length > 0 ? 1 : 0);

/** For parts that each tell how far they are: makes listeners whose sum is told. */
function sumOf(onProgress: ((records: number) => void) | undefined): () => (records: number) => void {
  const told: number[] = [];
  return () => {
    const part = told.push(0) - 1;
    return (records) => {
      told[part] = records;
      onProgress?.(told.reduce((sum, one) => sum + one, 0));
    };
  };
}

/** What all of them come to; when one fails, after all have ended, with what the others made thrown away. */
async function allOrNone<T>(parts: readonly Promise<T>[], throwAway: (made: T[]) => void): Promise<T[]> {
  const ended = await Promise.allSettled(parts);
  const made = ended.flatMap((one) => (one.status === 'fulfilled' ? [one.value] : []));
  const failed = ended.find((one) => one.status === 'rejected');
  if (failed === undefined) return made;
  throwAway(made);
  throw failed.reason;
}
