import type { TuningDocument } from '@yucca/contract';
import { completeTuning } from '@yucca/contract';
import { covers, planFor, Segment, Tombstones, type IndexPlan } from '@yucca/engine';
import { and, eq, lte, or } from 'drizzle-orm';
import { randomUUID } from 'node:crypto';
import { existsSync, readdirSync, rmSync } from 'node:fs';
import path from 'node:path';
import type { Logger } from 'pino';
import type { Db } from '../db/open';
import { collections, tombstones, segments as segmentRows, tunings } from '../db/schema';
import { Failure } from '../failure';
import type { StorageHealth } from '../storage/storage-health';
import { storageCodeOf } from '../storage/storage-failure';
import type { BuilderMethods } from '../workers/builder-worker';
import type { WriterMethods } from '../workers/writer-worker';
import { isThreadLost, type RemoteThread, type ThreadOnDemand } from '../workers/rpc';
import type { PublishedState } from '../workers/search-worker';
import type { BuildJob, BuiltSegment } from './build-segment';

type Built = BuiltSegment & { id: string; unsaved: string | null };

/** One segment in use. */
interface Layer {
  id: string;
  toVersion: number;
  buffer: SharedArrayBuffer;
  segment: Segment;
  dead: Tombstones;
  /** The disk refused its file; it is tried again when the disk takes what is written. */
  unsaved?: UnsavedRow;
}

/** The row that will speak of a segment once its file is there. */
type UnsavedRow = Omit<typeof segmentRows.$inferInsert, 'bytes'>;

/** Versions that no open segment covers: `(fromVersion, toVersion]`. */
interface Gap {
  fromVersion: number;
  toVersion: number;
}

interface Entry {
  collectionId: number;
  ready: boolean;
  plan: IndexPlan;
  /** The segments on disk, oldest first. */
  layers: Layer[];
  /** The records written since, rebuilt in memory with every change. */
  fresh: Layer | null;
  /** Tombstones up to this one are in the tombstones of all layers. */
  lastTombstone: number;
  generation: number;
  /** Work on this entry happens one after the other. */
  queue: Promise<unknown>;
  /** A refresh that is queued and not yet begun: later callers share it. */
  pending: Promise<void> | null;
  merging: boolean;
  /** What is missing from the answers until it is indexed again, oldest first. */
  gaps: Gap[];
  /** Counts the times that all layers were replaced: what was begun before is of no use any more. */
  epoch: number;
}

/** The fresh part is rebuilt with every write, so it stays small: about 20 ms of work. Past it, it becomes a segment. */
const FRESH_RECORDS = 1_000;
/** More segments than this, or more dead records in them than this share, are merged in the background. */
const MOST_LAYERS = 4;
const DEAD_SHARE = 0.25;

/** Records of the first piece of a gap, and how much larger each next one is: something can be found soon. */
const FIRST_PIECE = 2_000;
const PIECE_GROWTH = 4;
/** After a thread was lost over a build, it is tried again so many times. */
const TRIES = 3;
const RESTING_MS = 100;

const shared = (bytes: number): SharedArrayBuffer => new SharedArrayBuffer(bytes);

export interface CatalogueParts {
  db: Db;
  dataDir: string;
  writer: RemoteThread<WriterMethods>;
  builder: ThreadOnDemand<BuilderMethods>;
  /** Shows a collection's new state to all searchers. */
  publish: (state: PublishedState) => void;
  storage: Pick<StorageHealth, 'heard'>;
  log: Logger;
}

/**
 * Knows, for every collection, the segments that make up its index, and moves it from one generation to the next: after
 * writes, after a tuning is published, after a merge. The database is the truth; whatever is on disk here can be made
 * again from it, and is, when it is missing or damaged.
 */
export class IndexManager {
  readonly #parts: CatalogueParts;
  readonly #entries = new Map<number, Entry>();
  /** Records a second, as the last large build went; before the first, a careful guess. */
  #buildRate = 10_000;

  constructor(parts: CatalogueParts) {
    this.#parts = parts;
  }

  /**
   * Opens a collection's index. What is whole answers at once; what is missing, damaged or made for other fields is
   * indexed again from the records, piece by piece, and each piece answers as soon as it is there. Settles when all does.
   */
  async open(collectionId: number): Promise<void> {
    const { db, log } = this.#parts;
    const row = db.select().from(collections).where(eq(collections.id, collectionId)).get();
    if (!row) return;
    const plan = this.#wantedPlan(collectionId);
    const entry: Entry = {
      collectionId,
      ready: false,
      plan,
      layers: [],
      fresh: null,
      lastTombstone: 0,
      generation: row.generation,
      queue: Promise.resolve(),
      pending: null,
      merging: false,
      gaps: [],
      epoch: 0,
    };
    this.#entries.set(collectionId, entry);
    await this.#enqueue(entry, async () => {
      await this.#openLayers(entry);
      if (entry.gaps.length > 0)
        log.warn({ collectionId, gaps: entry.gaps }, 'a part of the index is missing or damaged and is built again');
      // What was written last can be found as soon as anything can.
      const newest = entry.gaps.at(-1);
      if (newest) await this.#fillPiece(entry, newest, FIRST_PIECE);
      await this.#freshen(entry);
      entry.ready = true;
    });
    await this.#fillGaps(entry);
    this.#tryStorage(() => this.#removeStrayFiles(entry));
  }

  /** Indexes what no layer covers. Other work on the entry comes between the pieces. */
  async #fillGaps(entry: Entry): Promise<void> {
    const { epoch, plan } = entry;
    const current = (): boolean => entry.epoch === epoch && this.#entries.get(entry.collectionId) === entry;
    for (let size = FIRST_PIECE * PIECE_GROWTH; current() && entry.gaps.length > 0; size *= PIECE_GROWTH) {
      // The newest first: what was written last is looked for first.
      const gap = entry.gaps.at(-1)!;
      const piece = this.#pieceOf(entry.collectionId, gap, size);
      const built = await this.#build(entry, piece.fromVersion, plan, piece.toVersion);
      await this.#enqueue(entry, async () => {
        if (!current()) return this.#throwAway(entry.collectionId, built.id);
        this.#adoptPiece(entry, built, gap, piece);
        await this.#freshen(entry);
      });
    }
    if (current()) this.#mergeIfWorthIt(entry);
  }

  async #fillPiece(entry: Entry, gap: Gap, size: number): Promise<void> {
    const piece = this.#pieceOf(entry.collectionId, gap, size);
    this.#adoptPiece(entry, await this.#build(entry, piece.fromVersion, entry.plan, piece.toVersion), gap, piece);
  }

  /** The last so many records of a gap. */
  #pieceOf(collectionId: number, { fromVersion, toVersion }: Gap, size: number): Gap {
    const from = this.#parts.db.$client
      .prepare(
        'select version_id from records where collection_id = ? and version_id > ? and version_id <= ? order by version_id desc limit 1 offset ?',
      )
      .pluck()
      .get(collectionId, fromVersion, toVersion, size) as number | undefined;
    return { fromVersion: from ?? fromVersion, toVersion };
  }

  #adoptPiece(entry: Entry, built: Built, gap: Gap, piece: Gap): void {
    const row = {
      id: built.id,
      collectionId: entry.collectionId,
      ...piece,
      tombstoneId: built.tombstoneId,
      plan: JSON.stringify(entry.plan),
    };
    if (built.buffer !== null) {
      const layer = newLayer(built.id, piece.toVersion, built.buffer);
      this.#keepRow(layer, row, built);
      entry.layers = [...entry.layers, layer].sort((a, b) => a.toVersion - b.toVersion);
    }
    const rest = { fromVersion: gap.fromVersion, toVersion: piece.fromVersion };
    entry.gaps = entry.gaps.flatMap((one) => (one !== gap ? [one] : rest.toVersion > rest.fromVersion ? [rest] : []));
    markDeleted(entry, built.deleted);
  }

  /** Whether all of a collection can be searched, and how much of it when not. */
  readiness(collectionId: number): { state: 'ready' | 'opening' | 'partial'; progress: number } {
    const entry = this.#entries.get(collectionId);
    if (!entry?.ready) return { state: 'opening', progress: 0 };
    if (entry.gaps.length === 0) return { state: 'ready', progress: 1 };
    const covered = allLayers(entry).reduce((sum, { segment }) => sum + segment.docs, 0);
    const row = this.#parts.db
      .select({ all: collections.records })
      .from(collections)
      .where(eq(collections.id, collectionId))
      .get();
    return { state: 'partial', progress: Math.min(1, covered / Math.max(1, row?.all ?? 1)) };
  }

  /** Writes the files that the disk refused, now that it takes them. */
  async saveUnsaved(): Promise<void> {
    for (const entry of this.#entries.values())
      for (const layer of entry.layers) {
        const row = layer.unsaved;
        if (!row) continue;
        const refused = await this.#parts.builder.call('save', [
          this.#file(entry.collectionId, layer.id),
          layer.buffer,
        ]);
        if (refused !== null) return;
        // A merge may have replaced it meanwhile.
        if (!entry.layers.includes(layer)) this.#throwAway(entry.collectionId, layer.id);
        else this.#insertRow(layer, row);
      }
  }

  /** Takes in what was written since; answers once it can be searched. Calls that come together share one pass. */
  refresh(collectionId: number): Promise<void> {
    const entry = this.#entry(collectionId);
    entry.pending ??= this.#enqueue(entry, async () => {
      entry.pending = null;
      await this.#freshen(entry);
    }).then(() => this.#mergeIfWorthIt(entry));
    return entry.pending;
  }

  /**
   * Makes the index able to answer the live tuning and the ones of `prepare`, then runs `commit` and shows the new state, in
   * one step: no query sees the new tuning on the old index. `prepare` is called when it is this change's turn, so what it
   * reads no other change can have changed by the time of the commit. Answers after the switch.
   */
  retune(collectionId: number, prepare: () => TuningDocument[], commit: () => void): Promise<void> {
    const entry = this.#entry(collectionId);
    return this.#enqueue(entry, async () => {
      const plan = this.#wantedPlan(collectionId, prepare());
      if (!covers(entry.plan, plan)) {
        await this.#rebuild(entry, plan);
        await this.#freshen(entry, { show: false });
      }
      commit();
      this.#show(entry);
    });
  }

  /** What it would take to answer a tuning: nothing, or building the index anew beside the one in use. */
  costOf(collectionId: number, coming: TuningDocument): { rebuild: boolean; records: number; aboutS: number } {
    const entry = this.#entry(collectionId);
    const rebuild = !covers(entry.plan, this.#wantedPlan(collectionId, [coming]));
    const records = allLayers(entry).reduce((sum, { segment }) => sum + segment.docs, 0);
    return { rebuild, records, aboutS: rebuild ? records / this.#buildRate : 0 };
  }

  forget(collectionId: number): void {
    this.#entries.delete(collectionId);
    rmSync(this.#folder(collectionId), { recursive: true, force: true });
  }

  /** Throws a Failure while the index is being opened. */
  requireReady(collectionId: number): void {
    if (!this.#entry(collectionId).ready)
      throw new Failure('starting', 'The index of this collection is being opened. Try again in a moment.');
  }

  facts(collectionId: number): { generation: number; bytes: number } {
    const entry = this.#entries.get(collectionId);
    if (!entry) return { generation: 0, bytes: 0 };
    return {
      generation: entry.generation,
      bytes: allLayers(entry).reduce((sum, { buffer }) => sum + buffer.byteLength, 0),
    };
  }

  #entry(collectionId: number): Entry {
    const entry = this.#entries.get(collectionId);
    if (!entry) throw new Failure('starting', 'The index of this collection is being opened. Try again in a moment.');
    return entry;
  }

  #enqueue(entry: Entry, work: () => Promise<void>): Promise<void> {
    const next = entry.queue.then(work);
    entry.queue = next.catch(() => {});
    return next;
  }

  #folder(collectionId: number): string {
    return path.join(this.#parts.dataDir, 'segments', String(collectionId));
  }

  #file(collectionId: number, id: string): string {
    return path.join(this.#folder(collectionId), `${id}.seg`);
  }

  /** The live tuning and the draft as they are stored, as JSON. */
  #documents(collectionId: number): { live: string; draft: string } {
    const { db } = this.#parts;
    const rows = db
      .select({ version: tunings.version, document: tunings.document })
      .from(tunings)
      .innerJoin(collections, eq(collections.id, tunings.collectionId))
      .where(
        and(
          eq(tunings.collectionId, collectionId),
          or(eq(tunings.version, 0), eq(tunings.version, collections.liveVersion)),
        ),
      )
      .all();
    const live = rows.find(({ version }) => version > 0)?.document ?? '{}';
    return { live, draft: rows.find(({ version }) => version === 0)?.document ?? live };
  }

  #wantedPlan(collectionId: number, coming: TuningDocument[] = []): IndexPlan {
    const { live, draft } = this.#documents(collectionId);
    const saved = [...new Set([live, draft])].map((text) => JSON.parse(text) as TuningDocument);
    return planFor([...saved, ...coming].map(completeTuning));
  }

  /** Opens what is whole on disk, and notes the gaps. */
  async #openLayers(entry: Entry): Promise<void> {
    const { db, builder, log } = this.#parts;
    const { collectionId } = entry;
    const rows = db
      .select()
      .from(segmentRows)
      .where(eq(segmentRows.collectionId, collectionId))
      .orderBy(segmentRows.toVersion)
      .all();
    let reached = 0;
    let lastTombstone = Infinity;
    for (const row of rows) {
      if (row.fromVersion < reached) continue;
      if (!covers(JSON.parse(row.plan) as IndexPlan, entry.plan)) continue;
      try {
        const buffer = await builder.call('open', [this.#file(collectionId, row.id)]);
        entry.layers.push(newLayer(row.id, row.toVersion, buffer));
      } catch (error) {
        log.warn({ collectionId, segment: row.id, reason: (error as Error).message }, 'a segment cannot be used');
        continue;
      }
      if (row.fromVersion > reached) entry.gaps.push({ fromVersion: reached, toVersion: row.fromVersion });
      reached = row.toVersion;
      lastTombstone = Math.min(lastTombstone, row.tombstoneId);
    }
    const { newest, waiting } = this.#after(collectionId, reached);
    if (waiting > FRESH_RECORDS) entry.gaps.push({ fromVersion: reached, toVersion: newest });
    entry.lastTombstone = entry.layers.length > 0 ? lastTombstone : 0;
    this.#forgetRows(entry);
  }

  /** The newest version there is, and how many records stand after one; counted no further than it matters. */
  #after(collectionId: number, versionId: number): { newest: number; waiting: number } {
    return this.#parts.db.$client
      .prepare(
        `select coalesce((select max(version_id) from records where collection_id = @collectionId), 0) as newest,
                (select count(*) from (select 1 from records where collection_id = @collectionId and version_id > @versionId limit @limit)) as waiting`,
      )
      .get({ collectionId, versionId, limit: FRESH_RECORDS + 1 }) as { newest: number; waiting: number };
  }

  /** Takes away the rows of segments that are not in use. */
  #forgetRows({ collectionId, layers }: Entry): void {
    const used = new Set(layers.map(({ id }) => id));
    this.#tryStorage(() => {
      const { db } = this.#parts;
      const rows = db
        .select({ id: segmentRows.id })
        .from(segmentRows)
        .where(eq(segmentRows.collectionId, collectionId))
        .all();
      for (const { id } of rows) if (!used.has(id)) db.delete(segmentRows).where(eq(segmentRows.id, id)).run();
    });
  }

  /** Builds the whole index anew in place of all layers. Does not show it yet. */
  async #rebuild(entry: Entry, plan: IndexPlan): Promise<void> {
    const built = await this.#build(entry, 0, plan);
    this.#adopt(entry, built, 0, plan);
  }

  async #build(entry: Entry, fromVersion: number, plan: IndexPlan, toVersion?: number): Promise<Built> {
    const { collectionId, lastTombstone } = entry;
    const job = {
      collectionId,
      fromVersion,
      sinceTombstone: lastTombstone,
      plan,
      ...(toVersion === undefined ? {} : { toVersion }),
    };
    for (let tries = 1; ; tries++) {
      const id = randomUUID();
      try {
        const { tookMs, ...built } = await this.#parts.builder.call('build', [job, this.#file(collectionId, id)]);
        // The work alone: the thread may have had to be started, or had another build before this one.
        if (built.records >= FRESH_RECORDS) this.#buildRate = built.records / (tookMs / 1000);
        if (this.#entries.get(collectionId) !== entry) {
          this.#throwAway(collectionId, id);
          throw new Failure('not-found', 'The collection was deleted meanwhile.');
        }
        return { id, ...built };
      } catch (error) {
        if (!isThreadLost(error) || tries === TRIES) throw error;
      }
    }
  }

  #throwAway(collectionId: number, id: string): void {
    rmSync(this.#file(collectionId, id), { force: true });
    if (!this.#entries.has(collectionId)) rmSync(this.#folder(collectionId), { recursive: true, force: true });
  }

  /** Takes a built segment over, on disk and in memory: after the other layers, or (from 0) in place of all of them. */
  #adopt(entry: Entry, built: Built, fromVersion: number, plan: IndexPlan): void {
    const { db } = this.#parts;
    const { collectionId } = entry;
    const replaced = fromVersion === 0 ? entry.layers : [];
    const layer = built.buffer === null ? null : newLayer(built.id, built.toVersion, built.buffer);
    const row = {
      id: built.id,
      collectionId,
      fromVersion,
      toVersion: built.toVersion,
      tombstoneId: built.tombstoneId,
      plan: JSON.stringify(plan),
    };
    this.#tryStorage(() =>
      db.$client
        .transaction(() => {
          if (fromVersion === 0) db.delete(segmentRows).where(eq(segmentRows.collectionId, collectionId)).run();
          if (layer === null) return;
          this.#keepRow(layer, row, built);
          // With one segment left, tombstones that it was built after concern nobody any more.
          if (fromVersion === 0)
            db.delete(tombstones)
              .where(and(eq(tombstones.collectionId, collectionId), lte(tombstones.id, built.tombstoneId)))
              .run();
        })
        .immediate(),
    );
    const added = layer === null ? [] : [layer];
    entry.layers = fromVersion === 0 ? added : [...entry.layers, ...added];
    entry.fresh = null;
    entry.plan = plan;
    markDeleted(entry, built.deleted);
    if (fromVersion === 0) {
      entry.lastTombstone = built.tombstoneId;
      entry.gaps = [];
      entry.epoch++;
    }
    for (const { id } of replaced) rmSync(this.#file(collectionId, id), { force: true });
  }

  /** Writes the row of a segment whose file is there; one whose file is not is remembered for later. */
  #keepRow(layer: Layer, row: UnsavedRow, { unsaved }: Built): void {
    layer.unsaved = row;
    if (unsaved === null) this.#insertRow(layer, row);
    else this.#parts.storage.heard(Object.assign(new Error('a segment was not written'), { code: unsaved }));
  }

  #insertRow(layer: Layer, row: UnsavedRow): void {
    const done = this.#tryStorage(() =>
      this.#parts.db
        .insert(segmentRows)
        .values({ ...row, bytes: layer.buffer.byteLength })
        .run(),
    );
    if (done) delete layer.unsaved;
  }

  /** Runs what writes down the state of the index. A disk that refuses keeps no search from being answered. */
  #tryStorage(run: () => void): boolean {
    try {
      run();
      return true;
    } catch (error) {
      if (storageCodeOf(error) === null) throw error;
      this.#parts.storage.heard(error);
      return false;
    }
  }

  /** Brings the index up to the newest write: a new fresh part, or first another segment when much was written. */
  async #freshen(entry: Entry, { show = true } = {}): Promise<void> {
    for (;;) {
      const { collectionId, plan } = entry;
      const fromVersion = Math.max(entry.layers.at(-1)?.toVersion ?? 0, entry.gaps.at(-1)?.toVersion ?? 0);
      const job = { collectionId, fromVersion, sinceTombstone: entry.lastTombstone, plan, atMost: FRESH_RECORDS };
      const built = await this.#buildFresh(job);
      if (built.tooMany) {
        const large = await this.#build(entry, fromVersion, plan);
        this.#adopt(entry, large, fromVersion, plan);
        entry.lastTombstone = large.tombstoneId;
        continue;
      }
      markDeleted(entry, built.deleted);
      entry.lastTombstone = built.tombstoneId;
      entry.fresh = built.buffer === null ? null : newLayer(randomUUID(), built.toVersion, built.buffer);
      if (show) this.#show(entry);
      return;
    }
  }

  async #buildFresh(job: BuildJob): Promise<BuiltSegment> {
    for (let tries = 1; ; tries++) {
      try {
        return await this.#parts.writer.call('buildFresh', [job]);
      } catch (error) {
        if (!isThreadLost(error) || tries === TRIES) throw error;
        await new Promise((resolve) => setTimeout(resolve, tries * RESTING_MS));
      }
    }
  }

  #mergeIfWorthIt(entry: Entry): void {
    if (entry.gaps.length > 0) return;
    const docs = entry.layers.reduce((sum, { segment }) => sum + segment.docs, 0);
    const dead = entry.layers.reduce((sum, layer) => sum + layer.dead.count, 0);
    if (entry.merging || (entry.layers.length <= MOST_LAYERS && dead <= docs * DEAD_SHARE + FRESH_RECORDS)) return;
    entry.merging = true;
    this.#parts.log.info({ collectionId: entry.collectionId, layers: entry.layers.length, dead }, 'merging segments');
    // The long part runs beside searches and refreshes; only taking it over waits for its turn.
    const plan = entry.plan;
    this.#build(entry, 0, plan)
      .then((built) =>
        this.#enqueue(entry, async () => {
          if (this.#entries.get(entry.collectionId) !== entry || entry.plan !== plan)
            return this.#throwAway(entry.collectionId, built.id);
          const since = entry.lastTombstone;
          this.#adopt(entry, built, 0, plan);
          entry.lastTombstone = Math.min(since, built.tombstoneId);
          await this.#freshen(entry);
        }),
      )
      .catch((error: Error) => {
        if (this.#entries.get(entry.collectionId) === entry)
          this.#parts.log.error({ error: error.message }, 'merge failed, the segments stay');
      })
      .finally(() => (entry.merging = false));
  }

  #show(entry: Entry): void {
    const { db, publish } = this.#parts;
    const { collectionId } = entry;
    entry.generation++;
    this.#tryStorage(() =>
      db.update(collections).set({ generation: entry.generation }).where(eq(collections.id, collectionId)).run(),
    );
    publish({
      collectionId,
      generation: entry.generation,
      layers: allLayers(entry).map(({ id, buffer, dead }) => ({
        id,
        buffer,
        dead: dead.bits.buffer as SharedArrayBuffer,
        deadCount: dead.count,
      })),
      ...this.#documents(collectionId),
    });
  }

  /** Files no row speaks of: left by a process that was killed between writing a file and its row. */
  #removeStrayFiles({ collectionId, layers }: Entry): void {
    const folder = this.#folder(collectionId);
    const known = new Set(layers.map(({ id }) => `${id}.seg`));
    if (!existsSync(folder)) return;
    for (const name of readdirSync(folder)) if (!known.has(name)) rmSync(path.join(folder, name), { force: true });
  }
}

function newLayer(id: string, toVersion: number, buffer: SharedArrayBuffer): Layer {
  const segment = new Segment(buffer, { verify: false });
  return { id, toVersion, buffer, segment, dead: Tombstones.none(segment.docs, shared) };
}

function allLayers(entry: Entry): Layer[] {
  return entry.fresh ? [...entry.layers, entry.fresh] : entry.layers;
}

/** Adds deleted versions to the tombstones of the layers that hold them. */
function markDeleted(entry: Entry, deleted: readonly number[]): void {
  if (deleted.length === 0) return;
  for (const layer of entry.layers) {
    const docs = deleted.map((versionId) => layer.segment.docOfVersion(versionId)).filter((doc) => doc !== -1);
    if (docs.length > 0) layer.dead = layer.dead.with(docs, shared);
  }
}
