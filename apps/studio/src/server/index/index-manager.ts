import type { TuningDocument } from '@yucca/contract';
import { covers, isCurrent, isUpToDate, missingColumns, type AddedColumns, type IndexPlan } from '@yucca/engine';
import { eq } from 'drizzle-orm';
import type { Logger } from 'pino';
import type { Db } from '../db/open';
import { collections } from '../db/schema';
import { Failure } from '../failure';
import type { StorageHealth } from '../storage/storage-health';
import type { BuildProgress } from '../workers/builder-worker';
import type { PublishedState } from '../workers/search-worker';
import { ColumnAdder } from './column-adder';
import { heldPlan, newEntry, type Entry, type Rebuild } from './entry';
import { FreshPart } from './fresh-part';
import { GapFiller } from './gap-filler';
import { allLayers, bytesOf, lastingVersion, type Layers, type Piece } from './layers';
import { countOf, FRESH_RECORDS, SegmentBuilds, type BuildThreads } from './segment-builds';
import { SegmentStore } from './segment-store';
import { livePlan, storedTunings, wantedPlan } from './wanted-plan';

/** More segments than this, or more dead records in them than this share, are merged in the background. */
const MOST_LAYERS = 4;
const DEAD_SHARE = 0.25;

/** Numbers of generations are taken so many at a time: writing each down would wait for the thread that writes. */
const GENERATIONS_AT_ONCE = 1_000;

export interface IndexManagerParts extends BuildThreads {
  db: Db;
  dataDir: string;
  /** Shows a collection's new state to all searchers. */
  publish: (state: PublishedState) => void;
  storage: Pick<StorageHealth, 'heard'>;
  /** Settles when all that was written to the database is on the disk. */
  flushed: () => Promise<void>;
  log: Logger;
}

/**
 * Knows, for every collection, the segments that make up its index, and moves it from one generation to the next: after
 * writes, after a tuning is saved or published, after a merge. The database is the truth; whatever is on disk here can
 * be made again from it, and is, when it is missing or damaged.
 *
 * Whole indexes are built beside the one that answers. Writes go on meanwhile and can be searched at once; only taking
 * the new index over waits for its turn, after what was written during the build has been built as well.
 */
export class IndexManager {
  readonly #parts: IndexManagerParts;
  readonly #store: SegmentStore;
  readonly #entries = new Map<number, Entry>();
  readonly #builds: SegmentBuilds;
  readonly #fresh: FreshPart;
  readonly #gaps: GapFiller;
  readonly #columns: ColumnAdder;

  constructor(parts: IndexManagerParts) {
    this.#parts = parts;
    this.#store = new SegmentStore(parts);
    const isOpen = (entry: Layers): boolean => this.#isOpen(entry);
    const enqueue = (entry: Entry, work: () => Promise<void>): Promise<void> => this.#enqueue(entry, work);
    const store = this.#store;
    const builds = new SegmentBuilds({ threads: parts, store, isOpen });
    const { catchUp, builder, log } = parts;
    const show = (entry: Entry): void => this.#show(entry);
    const fresh = new FreshPart({ builds, store, catchUp, isOpen, log, enqueue, show });
    this.#builds = builds;
    this.#fresh = fresh;
    this.#gaps = new GapFiller({ builds, store, fresh, builder, isOpen, enqueue });
    this.#columns = new ColumnAdder({ builds, store, isOpen, enqueue, freshen: (entry) => fresh.freshen(entry) });
  }

  /**
   * Opens a collection's index. What is whole answers at once; what is missing, damaged or made for other fields is
   * indexed again from the records, piece by piece, and each piece answers as soon as it is there. Settles when all
   * does.
   */
  async open(collectionId: number): Promise<void> {
    const { db, log, builder } = this.#parts;
    const row = db.select().from(collections).where(eq(collections.id, collectionId)).get();
    if (!row) return;
    const plan = this.#planToOpenWith(collectionId);
    const entry = newEntry(collectionId, row.generation, plan);
    this.#entries.set(collectionId, entry);
    await this.#enqueue(entry, async () => {
      await this.#store.openLayers(
        entry,
        (made) => covers(made, plan),
        (file, added) => builder.call('open', [file, added]),
        FRESH_RECORDS,
      );
      if (entry.gaps.length > 0)
        log.warn({ collectionId, gaps: entry.gaps }, 'a part of the index is missing or damaged and is built again');
      await this.#gaps.fillNewest(entry);
      await this.#fresh.freshen(entry);
      entry.ready = true;
    });
    if (await this.#gaps.fillAll(entry)) this.#mergeIfWorthIt(entry);
    this.#store.removeStrayFiles(entry, this.#builds.running);
    if (this.#isOpen(entry)) this.ensure(collectionId);
  }

  /**
   * A draft that no segment was built for yet must not keep visitors from what is there for the live tuning. Nor must
   * other rules for what a word is: those of the oldest segment are the whole index's, until `ensure` has made it anew.
   */
  #planToOpenWith(collectionId: number): IndexPlan {
    const wanted = wantedPlan(this.#parts.db, collectionId);
    const made = this.#store.plans(collectionId);
    const plan = made.every((one) => covers(one, wanted)) ? wanted : livePlan(this.#parts.db, collectionId);
    const older = made.filter((one) => !isCurrent(one, plan));
    if (older.length === 0) return plan;
    return { ...plan, textRules: older[0]!.textRules, wordEnds: older.every(({ wordEnds }) => wordEnds) };
  }

  /** Whether all of a collection can be searched, and how much of it when not. */
  readiness(collectionId: number): { state: 'ready' | 'opening' | 'partial'; progress: number } {
    const entry = this.#entries.get(collectionId);
    if (!entry?.ready) return { state: 'opening', progress: 0 };
    if (entry.gaps.length === 0) return { state: 'ready', progress: 1 };
    const covered = allLayers(entry).reduce((sum, { segment }) => sum + segment.docs, 0);
    return { state: 'partial', progress: Math.min(1, covered / Math.max(1, this.#recordsOf(collectionId))) };
  }

  #recordsOf(collectionId: number): number {
    const { db } = this.#parts;
    const row = db.select({ all: collections.records }).from(collections).where(eq(collections.id, collectionId)).get();
    return row?.all ?? 0;
  }

  /** Writes the files that the disk refused, now that it takes them. */
  async saveUnsaved(): Promise<void> {
    const write = (file: string, buffer: SharedArrayBuffer): Promise<string | null> =>
      this.#parts.catchUp.call('save', [file, buffer]);
    for (const entry of this.#entries.values())
      for (const layer of entry.layers) if (!(await this.#store.saveUnsaved(entry, layer, write))) return;
  }

  /** Takes in what was written since; resolves once it can be searched. Calls that come together share one pass. */
  refresh(collectionId: number): Promise<void> {
    const entry = this.#entry(collectionId);
    entry.pending ??= this.#enqueue(entry, async () => {
      entry.pending = null;
      await this.#fresh.freshen(entry);
    }).then(() => this.#mergeIfWorthIt(entry));
    return entry.pending;
  }

  /**
   * Runs a change of the tunings and shows it, in one step, when it is this change's turn: what `commit` reads no other
   * change can have changed. A draft that the index cannot answer yet may be stored; see `ensure`. Returns what
   * `commit` does.
   */
  async retune<T>(collectionId: number, commit: () => T): Promise<T> {
    const entry = this.#entry(collectionId);
    let result: T;
    await this.#enqueue(entry, () => {
      result = commit();
      this.#show(entry);
      return Promise.resolve();
    });
    return result!;
  }

  /** Whether the index can answer some tunings besides the live one. */
  canAnswer(collectionId: number, tunings: readonly TuningDocument[]): boolean {
    const entry = this.#entry(collectionId);
    const { db } = this.#parts;
    const isHeld = (want: IndexPlan): boolean => covers(heldPlan(entry, want), want);
    return isHeld(wantedPlan(db, collectionId, tunings)) || isHeld(livePlan(db, collectionId, tunings));
  }

  /** Throws a Failure while the index cannot answer the draft yet: it says how far that is. */
  requireDraft(collectionId: number): void {
    const { shown, rebuild } = this.#entry(collectionId);
    if (shown === null || shown.draftReady) return;
    throw new Failure('unavailable', 'The index for this draft is being built. Live goes on answering.', [], {
      progress: Math.round((rebuild?.progress ?? 0) * 100) / 100,
    });
  }

  /** Makes the index able to answer the live tuning and the draft. Null when it can already. */
  ensure(collectionId: number): Rebuild | null {
    const entry = this.#entry(collectionId);
    const { db, log } = this.#parts;
    if (entry.rebuild !== null) return entry.rebuild;
    const wanted = wantedPlan(db, collectionId);
    this.#widen(entry, wanted);
    if (isUpToDate(entry.plan, wanted)) return null;
    const rebuild: Rebuild = { ended: Promise.resolve(), progress: 0, records: this.#recordsOf(collectionId) };
    entry.rebuild = rebuild;
    entry.underWay++;
    rebuild.ended = this.#rebuild(entry, rebuild).finally(() => {
      entry.underWay--;
      entry.rebuild = null;
    });
    // Whoever waits for it is told; until then nobody need be listening.
    rebuild.ended.catch((error: Error) => {
      if (this.#isOpen(entry)) log.error({ collectionId, error: error.message }, 'the index for a draft was not built');
    });
    return rebuild;
  }

  async #rebuild(entry: Entry, rebuild: Rebuild): Promise<void> {
    const { collectionId } = entry;
    const { db } = this.#parts;
    for (;;) {
      // The draft may be changed while its index is built; then there is one more round.
      const plan = wantedPlan(db, collectionId);
      if (isUpToDate(entry.plan, plan)) return;
      const stillWanted = (): boolean => covers(plan, wantedPlan(db, collectionId));
      const more = this.#missingColumns(entry, entry.plan, plan);
      if (more !== null) {
        const onProgress = (share: number): void => void (rebuild.progress = share);
        await this.#columns.add(entry, more, { onProgress, stillWanted });
        // Deleted meanwhile: there is nothing left to ask of it.
        if (!this.#isOpen(entry)) throw new Failure('not-found', 'The collection was deleted meanwhile.');
        continue;
      }
      const onProgress = (records: number): void =>
        void (rebuild.progress = Math.min(1, records / Math.max(1, rebuild.records)));
      const pieces = await this.#builds.all(entry, plan, { sideBySide: true, onProgress });
      await this.#takeOver(entry, pieces, plan, stillWanted);
    }
  }

  /** The columns that would make an index answer what is wanted; null when it has to be made anew for that. */
  #missingColumns(entry: Entry, have: IndexPlan, wanted: IndexPlan): AddedColumns | null {
    return entry.ready && entry.gaps.length === 0 ? missingColumns(have, wanted) : null;
  }

  /** What it would take to answer a tuning: nothing, some columns more, or a new index beside the present one. */
  costOf(collectionId: number, coming: TuningDocument): { rebuild: boolean; records: number; aboutS: number } {
    const entry = this.#entry(collectionId);
    const wanted = wantedPlan(this.#parts.db, collectionId, [coming]);
    const held = heldPlan(entry, wanted);
    const rebuild = !isUpToDate(held, wanted);
    const records = allLayers(entry).reduce((sum, { segment }) => sum + segment.docs, 0);
    const { rate, columnRate } = this.#builds;
    const more = this.#missingColumns(entry, held, wanted);
    const aboutS = more === null ? records / rate : (records * countOf(more)) / columnRate;
    return { rebuild, records, aboutS: rebuild ? aboutS : 0 };
  }

  /** A load has stored more, and goes on. `coming`: the tunings that will be there when it has ended. */
  grow(collectionId: number, coming: readonly TuningDocument[]): void {
    const entry = this.#entries.get(collectionId);
    if (!entry?.ready || entry.gaps.length > 0) return;
    // Made for what the index is made for, so that it stands beside the other segments.
    const plan = entry.layers.length > 0 ? entry.plan : wantedPlan(this.#parts.db, collectionId, coming);
    this.#builds.grow(entry, lastingVersion(entry), plan);
  }

  /** No load goes on: what was built of one and nobody took over is not wanted. */
  stopGrowing(collectionId: number): void {
    const entry = this.#entries.get(collectionId);
    if (entry) this.#builds.stopGrowing(entry);
  }

  forget(collectionId: number): void {
    this.stopGrowing(collectionId);
    this.#entries.delete(collectionId);
    this.#store.removeFolder(collectionId);
  }

  /** Settles when no file is left of what is not in use any more. */
  removed(): Promise<void> {
    return this.#store.removed();
  }

  /** Throws a Failure while the index is being opened. */
  requireReady(collectionId: number): void {
    if (!this.#entry(collectionId).ready) throw opening();
  }

  facts(collectionId: number): { generation: number; bytes: number } {
    const entry = this.#entries.get(collectionId);
    if (!entry) return { generation: 0, bytes: 0 };
    const bytes = allLayers(entry).reduce((sum, layer) => sum + bytesOf(layer), 0);
    return { generation: entry.generation, bytes };
  }

  /** What a builder says while it builds. */
  onProgress(progress: BuildProgress): void {
    this.#builds.onProgress(progress);
  }

  #entry(collectionId: number): Entry {
    const entry = this.#entries.get(collectionId);
    if (!entry) throw opening();
    return entry;
  }

  #isOpen(entry: Layers): boolean {
    return this.#entries.get(entry.collectionId) === entry;
  }

  #enqueue(entry: Entry, work: () => Promise<void>): Promise<void> {
    const next = entry.queue.then(work);
    entry.queue = next.catch(() => {});
    return next;
  }

  /** Puts built segments in the place of all layers, when it is their turn and `stillWanted`. */
  #takeOver(entry: Entry, pieces: readonly Piece[], plan: IndexPlan, stillWanted: () => boolean): Promise<void> {
    return this.#enqueue(entry, async () => {
      if (!this.#isOpen(entry) || !stillWanted()) {
        return this.#builds.throwAway(
          entry,
          pieces.map(({ built }) => built),
        );
      }
      this.#store.adopt(entry, pieces, plan, 1);
      entry.epoch++;
      await this.#fresh.freshen(entry);
    });
  }

  #mergeIfWorthIt(entry: Entry): void {
    if (entry.gaps.length > 0 || entry.merging || entry.rebuild !== null) return;
    const docs = entry.layers.reduce((sum, { segment }) => sum + segment.docs, 0);
    const dead = entry.layers.reduce((sum, layer) => sum + layer.dead.count, 0);
    if (entry.layers.length <= MOST_LAYERS && dead <= docs * DEAD_SHARE + FRESH_RECORDS) return;
    entry.merging = true;
    entry.underWay++;
    this.#parts.log.info({ collectionId: entry.collectionId, layers: entry.layers.length, dead }, 'merging segments');
    const { plan } = entry;
    this.#builds
      .all(entry, plan, { sideBySide: false })
      .then((pieces) => this.#takeOver(entry, pieces, plan, () => entry.plan === plan))
      .catch((error: Error) => {
        if (this.#isOpen(entry)) this.#parts.log.error({ error: error.message }, 'merge failed, the segments stay');
      })
      .finally(() => {
        entry.underWay--;
        entry.merging = false;
      });
  }

  /** Takes note of what the segments hold besides what they were made for, as far as it is wanted. */
  #widen(entry: Entry, wanted: IndexPlan): void {
    const plan = heldPlan(entry, wanted);
    if (plan === entry.plan) return;
    entry.plan = plan;
    this.#store.keepPlan(entry);
  }

  #show(entry: Entry): void {
    const { publish } = this.#parts;
    const { collectionId } = entry;
    entry.generation++;
    this.#reserveGenerations(entry);
    publish({
      collectionId,
      generation: entry.generation,
      layers: allLayers(entry).map(({ id, buffer, added, dead }) => ({
        id,
        buffer,
        added: added.map((one) => one.buffer),
        dead: dead.bits.buffer as SharedArrayBuffer,
        deadCount: dead.count,
      })),
      ...this.#shownTunings(entry),
    });
  }

  /** What is stored is as far as numbers may have been used: a restart goes on behind it. */
  #reserveGenerations(entry: Entry): void {
    if (entry.generation <= entry.reserved) return;
    const { db } = this.#parts;
    const generation = entry.generation + GENERATIONS_AT_ONCE;
    const of = eq(collections.id, entry.collectionId);
    if (this.#store.try(() => db.update(collections).set({ generation }).where(of).run())) entry.reserved = generation;
  }

  /**
   * The tunings as they are stored now; whether the draft can be answered is worked out when one of them, or the plan,
   * changes.
   */
  #shownTunings(entry: Entry): { live: string; draft: string } {
    const { db } = this.#parts;
    const { live, draft } = storedTunings(db, entry.collectionId);
    const { shown } = entry;
    if (shown?.live !== live || shown.draft !== draft || shown.plan !== entry.plan) {
      const wanted = wantedPlan(db, entry.collectionId);
      this.#widen(entry, wanted);
      entry.shown = { live, draft, plan: entry.plan, draftReady: covers(entry.plan, wanted) };
    }
    return { live, draft };
  }
}

const opening = (): Failure =>
  new Failure('starting', 'The index of this collection is being opened. Try again in a moment.');
