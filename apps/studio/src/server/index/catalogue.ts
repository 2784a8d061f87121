import type { TuningDocument } from '@yucca/contract';
import { completeTuning } from '@yucca/contract';
import { covers, planFor, Segment, Tombstones, type IndexPlan } from '@yucca/engine';
import { and, eq, lte, or } from 'drizzle-orm';
import { randomUUID } from 'node:crypto';
import { existsSync, readdirSync, rmSync } from 'node:fs';
import path from 'node:path';
import type { Logger } from 'pino';
import type { Db } from '../db/open';
import { collections, graves, segments as segmentRows, tunings } from '../db/schema';
import { Failure } from '../failure';
import type { BuilderMethods } from '../workers/builder-worker';
import type { KeeperMethods } from '../workers/keeper-worker';
import type { RemoteThread, ThreadOnDemand } from '../workers/rpc';
import type { PublishedState } from '../workers/search-worker';
import type { BuiltSegment } from './build-segment';

/** One segment in use. */
interface Layer {
  id: string;
  toRid: number;
  buffer: SharedArrayBuffer;
  segment: Segment;
  dead: Tombstones;
}

interface Entry {
  collectionId: number;
  ready: boolean;
  plan: IndexPlan;
  /** The segments on disk, oldest first. */
  layers: Layer[];
  /** The records written since, rebuilt in memory with every change. */
  fresh: Layer | null;
  /** Graves up to this one are in the tombstones of all layers. */
  lastGrave: number;
  generation: number;
  /** Work on this entry happens one after the other. */
  queue: Promise<unknown>;
  /** A refresh that is queued and not yet begun: later callers share it. */
  pending: Promise<void> | null;
  merging: boolean;
}

/** The fresh part is rebuilt with every write, so it stays small: about 20 ms of work. Past it, it becomes a segment. */
const FRESH_RECORDS = 1_000;
/** More segments than this, or more dead records in them than this share, are merged in the background. */
const MOST_LAYERS = 4;
const DEAD_SHARE = 0.25;

const shared = (bytes: number): SharedArrayBuffer => new SharedArrayBuffer(bytes);

export interface CatalogueParts {
  db: Db;
  dataDir: string;
  keeper: RemoteThread<KeeperMethods>;
  builder: ThreadOnDemand<BuilderMethods>;
  /** Shows a collection's new state to all searchers. */
  publish: (state: PublishedState) => void;
  log: Logger;
}

/**
 * Knows, for every collection, the segments that make up its index, and moves it from one generation to the next: after
 * writes, after a tuning is published, after a merge. The database is the truth; whatever is on disk here can be made
 * again from it, and is, when it is missing or damaged.
 */
export class Catalogue {
  readonly #parts: CatalogueParts;
  readonly #entries = new Map<number, Entry>();
  /** Records a second, as the last large build went; before the first, a careful guess. */
  #buildRate = 10_000;

  constructor(parts: CatalogueParts) {
    this.#parts = parts;
  }

  /** Opens a collection's index from disk, or builds it. Searches are refused until then. */
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
      lastGrave: 0,
      generation: row.generation,
      queue: Promise.resolve(),
      pending: null,
      merging: false,
    };
    this.#entries.set(collectionId, entry);
    await this.#enqueue(entry, async () => {
      try {
        await this.#openLayers(entry);
      } catch (error) {
        log.warn({ collectionId, reason: (error as Error).message }, 'index missing or damaged, building it again');
        await this.#rebuild(entry, plan);
      }
      await this.#freshen(entry);
      entry.ready = true;
    });
    this.#removeStrayFiles(entry);
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
   * Makes the index able to answer the live tuning and `coming`, then runs `commit` and shows the new state, in one step:
   * no query sees the new tuning on the old index. Answers after the switch.
   */
  retune(collectionId: number, coming: TuningDocument[], commit: () => void): Promise<void> {
    const entry = this.#entry(collectionId);
    return this.#enqueue(entry, async () => {
      const plan = this.#wantedPlan(collectionId, coming);
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

  async #openLayers(entry: Entry): Promise<void> {
    const { db, builder } = this.#parts;
    const { collectionId } = entry;
    const rows = db
      .select()
      .from(segmentRows)
      .where(eq(segmentRows.collectionId, collectionId))
      .orderBy(segmentRows.toRid)
      .all();
    let reached = 0;
    let lastGrave = Infinity;
    for (const row of rows) {
      const plan = JSON.parse(row.plan) as IndexPlan;
      if (row.fromRid !== reached) throw new Error('a segment is missing from the row');
      if (!covers(plan, entry.plan)) throw new Error('the index was made for other fields');
      const buffer = await builder.call('open', [this.#file(collectionId, row.id)]);
      entry.layers.push(newLayer(row.id, row.toRid, buffer));
      reached = row.toRid;
      lastGrave = Math.min(lastGrave, row.graveId);
    }
    entry.lastGrave = rows.length > 0 ? lastGrave : 0;
  }

  /** Builds the whole index anew in place of all layers. Does not show it yet. */
  async #rebuild(entry: Entry, plan: IndexPlan): Promise<void> {
    const built = await this.#build(entry, 0, plan);
    this.#adopt(entry, built, 0, plan);
  }

  async #build(entry: Entry, fromRid: number, plan: IndexPlan): Promise<BuiltSegment & { id: string }> {
    const id = randomUUID();
    const { collectionId, lastGrave } = entry;
    const job = { collectionId, fromRid, sinceGrave: lastGrave, plan };
    const { tookMs, ...built } = await this.#parts.builder.call('build', [job, this.#file(collectionId, id)]);
    // The work alone: the thread may have had to be started, or had another build before this one.
    if (built.records >= FRESH_RECORDS) this.#buildRate = built.records / (tookMs / 1000);
    return { id, ...built };
  }

  /** Takes a built segment over, on disk and in memory: after the other layers, or (from 0) in place of all of them. */
  #adopt(entry: Entry, built: BuiltSegment & { id: string }, fromRid: number, plan: IndexPlan): void {
    const { db } = this.#parts;
    const { collectionId } = entry;
    const replaced = fromRid === 0 ? entry.layers : [];
    db.$client.transaction(() => {
      if (fromRid === 0) db.delete(segmentRows).where(eq(segmentRows.collectionId, collectionId)).run();
      if (built.buffer === null) return;
      db.insert(segmentRows)
        .values({
          id: built.id,
          collectionId,
          fromRid,
          toRid: built.toRid,
          graveId: built.graveId,
          bytes: built.buffer.byteLength,
          plan: JSON.stringify(plan),
        })
        .run();
      // With one segment left, graves that it was built after concern nobody any more.
      if (fromRid === 0)
        db.delete(graves)
          .where(and(eq(graves.collectionId, collectionId), lte(graves.gid, built.graveId)))
          .run();
    })();
    const added = built.buffer === null ? [] : [newLayer(built.id, built.toRid, built.buffer)];
    entry.layers = fromRid === 0 ? added : [...entry.layers, ...added];
    entry.fresh = null;
    entry.plan = plan;
    bury(entry, built.buried);
    if (fromRid === 0) entry.lastGrave = built.graveId;
    for (const { id } of replaced) rmSync(this.#file(collectionId, id), { force: true });
  }

  /** Brings the index up to the newest write: a new fresh part, or first another segment when much was written. */
  async #freshen(entry: Entry, { show = true } = {}): Promise<void> {
    for (;;) {
      const { collectionId, plan } = entry;
      const fromRid = entry.layers.at(-1)?.toRid ?? 0;
      const job = { collectionId, fromRid, sinceGrave: entry.lastGrave, plan, atMost: FRESH_RECORDS };
      const built = await this.#parts.keeper.call('buildFresh', [job]);
      if (built.tooMany) {
        const large = await this.#build(entry, fromRid, plan);
        this.#adopt(entry, large, fromRid, plan);
        entry.lastGrave = large.graveId;
        continue;
      }
      bury(entry, built.buried);
      entry.lastGrave = built.graveId;
      entry.fresh = built.buffer === null ? null : newLayer(randomUUID(), built.toRid, built.buffer);
      if (show) this.#show(entry);
      return;
    }
  }

  #mergeIfWorthIt(entry: Entry): void {
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
          if (!this.#entries.has(entry.collectionId) || entry.plan !== plan) return;
          const since = entry.lastGrave;
          this.#adopt(entry, built, 0, plan);
          entry.lastGrave = Math.min(since, built.graveId);
          await this.#freshen(entry);
        }),
      )
      .catch((error: Error) => this.#parts.log.error({ error: error.message }, 'merge failed, the segments stay'))
      .finally(() => (entry.merging = false));
  }

  #show(entry: Entry): void {
    const { db, publish } = this.#parts;
    const { collectionId } = entry;
    entry.generation++;
    db.update(collections).set({ generation: entry.generation }).where(eq(collections.id, collectionId)).run();
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

function newLayer(id: string, toRid: number, buffer: SharedArrayBuffer): Layer {
  const segment = new Segment(buffer, { verify: false });
  return { id, toRid, buffer, segment, dead: Tombstones.none(segment.docs, shared) };
}

function allLayers(entry: Entry): Layer[] {
  return entry.fresh ? [...entry.layers, entry.fresh] : entry.layers;
}

/** Adds buried versions to the tombstones of the layers that hold them. */
function bury(entry: Entry, buried: readonly number[]): void {
  if (buried.length === 0) return;
  for (const layer of entry.layers) {
    const docs = buried.map((rid) => layer.segment.docOfRid(rid)).filter((doc) => doc !== -1);
    if (docs.length > 0) layer.dead = layer.dead.with(docs, shared);
  }
}
