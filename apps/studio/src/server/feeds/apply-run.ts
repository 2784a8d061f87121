/** Writes what a run reads of a source that is asked, on the writer's connection. */
import type { FeedRunState, RecordJson } from '@yucca/contract';
import { eq } from 'drizzle-orm';
import { feedRuns, feeds } from '../db/feeds-schema';
import type { Db } from '../db/open';
import { checkKey, checkRecord, keyOf, RecordError, type RecordStore } from '../records/record-store';
import type { FeedChanges, FeedTarget } from './apply-changes';
import { lookupIn, type Lookup } from './lookup-in';
import { mapRecord } from './mapping';
import type { Print } from './read-events';
import { changesOfShape, Shape, type FieldUse } from './shape';
import type { SourceBatch, SourceEnd, SourceLine } from './sources/source';

export interface RunTarget extends FeedTarget {
  /** The number of the run. */
  run: number;
  /** Fields that searches and pages use: when one of these changes, it is asked before anything is written. */
  used: readonly FieldUse[];
  /** What was asked and answered: one answer is for one question. */
  confirmed: 'fields' | 'deletes' | null;
}

type RunRow = typeof feedRuns.$inferSelect;

/** A share of a feed's records that is deleted only when it was asked for once more. */
const LARGE_SHARE = 0.1;
/** Records deleted in one transaction: other writes come between. */
const AT_ONCE = 500;
/** What dead events of runs have as their source. */
export const BY_RUN = 'run';

/**
 * Applies runs. Each piece is written in one transaction, with where to go on after it, so that a run that was killed
 * goes on where it was. A collection that is live is never emptied: records are written one by one, and what a whole
 * run has not seen of the records that this feed brought is deleted after it. A source that has nothing deletes
 * nothing.
 */
export class FeedRuns {
  readonly #db: Db;
  readonly #store: RecordStore;
  readonly #changes: FeedChanges;
  readonly #lookup: Lookup;
  readonly #newest;
  readonly #mark;
  readonly #seen;
  readonly #died;
  readonly #lives;

  constructor(db: Db, store: RecordStore, changes: FeedChanges) {
    this.#db = db;
    this.#store = store;
    this.#changes = changes;
    this.#lookup = lookupIn(db);
    const { $client } = db;
    this.#newest = $client.prepare('select "order" from feed_keys where feed_id = ? and key = ?').pluck();
    this.#mark = $client.prepare(
      `insert into feed_keys (feed_id, key, "order", run, version, print, part) values (?, ?, ?, ?, ?, ?, ?)
       on conflict do update set "order" = excluded."order", run = excluded.run, version = excluded.version, print = excluded.print, part = excluded.part`,
    );
    this.#seen = $client.prepare('update feed_keys set run = ? where feed_id = ? and key = ?');
    this.#died = $client.prepare(
      `insert into feed_events (feed_id, source, event, type, key, action, data, "order", state, reason, received_at)
       values (?, '${BY_RUN}', ?, 'record', ?, 'upsert', ?, ?, 'dead', ?, ?)
       on conflict do update set data = excluded.data, "order" = excluded."order", state = 'dead', reason = excluded.reason, received_at = excluded.received_at`,
    );
    this.#lives = $client.prepare(`delete from feed_events where feed_id = ? and source = '${BY_RUN}' and event = ?`);
  }

  /** Writes a piece; how the run stands after it. It asks when fields that are used are not what they were. */
  add(target: RunTarget, batch: SourceBatch): FeedRunState {
    return this.#store.transaction(target.collectionId, () => {
      const run = this.#row(target.run);
      if (batch.order !== null) run.order = batch.order;
      if (batch.anew && run.read > 0) this.#beginAnew(target.feedId, run);
      const lines = batch.records.map((line) => this.#read(target, batch.key, line));
      const shape = Shape.from(run.shape);
      for (const line of lines) if ('record' in line) shape.add(line.record);
      if (run.read === 0 && run.whole && this.#asksOfShape(target, run, shape, batch.isAlike)) return 'asking';
      const hadDead = this.#hasDead(target.feedId);
      for (const line of lines) this.#write(target, run, line, hadDead);
      for (const key of batch.seen) this.#seen.run(run.number, target.feedId, key);
      const { taken } = this.#changes.takeWithin(target, batch.changes, { paused: false, now: Date.now() });
      run.written += taken;
      run.same += batch.seen.length;
      run.read += batch.records.length + batch.seen.length + batch.changes.length;
      const { number, order, read, written, same, failed, nameless, reason } = run;
      this.#db
        .update(feedRuns)
        .set({
          order,
          read,
          written,
          same,
          failed,
          nameless,
          reason,
          resume: batch.resume,
          total: batch.total ?? run.total,
          shape: shape.text,
        }) // prettier-ignore
        .where(eq(feedRuns.number, number))
        .run();
      return 'running';
    });
  }

  /** Ends a run: deletes what a whole one has not seen, or asks first when that is much. */
  async end(target: RunTarget, end: SourceEnd): Promise<FeedRunState> {
    const run = this.#row(target.run);
    const shape = Shape.from(run.shape);
    const before = this.#shapeOf(target.feedId);
    const changes = end.whole && run.read > 0 && before !== null ? changesOfShape(before, shape, target.used) : [];
    const shapeNow = end.whole && run.read > 0 ? shape.text : undefined;
    this.#db
      .update(feedRuns)
      .set({ position: end.position, changes: JSON.stringify(changes), whole: end.whole })
      .where(eq(feedRuns.number, run.number))
      .run();
    if (!end.whole) return this.#close(target, end.position, null);
    if (run.read === 0)
      return this.#close(target, end.position, 'The source has no records. Nothing was deleted because of that.');
    if (run.nameless > 0)
      return this.#close(target, end.position, `${run.reason ?? ''} What cannot be read may be any record, so nothing was deleted.`.trim(), shapeNow); // prettier-ignore
    const gone = this.#gone(target, run);
    if (gone.length > this.#owned(target) * LARGE_SHARE && target.confirmed !== 'deletes') {
      this.#db
        .update(feedRuns)
        .set({ state: 'asking', asks: gone.length, endedAt: Date.now() })
        .where(eq(feedRuns.number, run.number))
        .run();
      return 'asking';
    }
    await this.#delete(target, run, gone);
    return this.#close(target, end.position, run.reason, shapeNow);
  }

  /** A run that failed, or was taken back. Where it was stays known, so that the next one goes on there. */
  broken(run: number, state: 'failed' | 'cancelled', reason: string | null): void {
    this.#db.update(feedRuns).set({ state, reason, endedAt: Date.now() }).where(eq(feedRuns.number, run)).run();
  }

  #row(number: number): RunRow {
    return this.#db.select().from(feedRuns).where(eq(feedRuns.number, number)).get()!;
  }

  #shapeOf(feedId: string): Shape | null {
    const row = this.#db.select({ shape: feeds.shape }).from(feeds).where(eq(feeds.id, feedId)).get();
    return row?.shape ? Shape.from(row.shape) : null;
  }

  #close({ feedId, run }: RunTarget, position: string | null, reason: string | null, shape?: string): FeedRunState {
    this.#db.$client
      .transaction(() => {
        this.#db
          .update(feedRuns)
          .set({ state: 'done', reason, asks: null, resume: null, endedAt: Date.now() })
          .where(eq(feedRuns.number, run))
          .run();
        this.#db
          .update(feeds)
          .set({ position, ...(shape !== undefined && { shape }) })
          .where(eq(feeds.id, feedId))
          .run();
      })
      .immediate();
    return 'done';
  }

  /**
   * Whether used fields are other than in the run before: of another type, or gone from records that most had it. Then
   * nothing is written before somebody says so.
   */
  #asksOfShape(target: RunTarget, run: RunRow, shape: Shape, isAlike: boolean): boolean {
    const before = this.#shapeOf(target.feedId);
    if (target.confirmed !== null || before === null || shape.records === 0) return false;
    const serious = changesOfShape(before, shape, target.used).filter(
      ({ field, was, is, used }) =>
        was !== null &&
        used.length > 0 &&
        (is === null ? isAlike && before.isCommon(field) : shape.hasNewType(field, before)),
    );
    if (serious.length === 0) return false;
    this.#db
      .update(feedRuns)
      .set({
        state: 'asking',
        endedAt: Date.now(),
        changes: JSON.stringify(serious),
        reason: 'Fields that are used are not what they were. Nothing was written.',
      })
      .where(eq(feedRuns.number, run.number))
      .run();
    return true;
  }

  /**
   * A run that was broken off and cannot go on where it was: what it had seen may be gone from the source by now. (Or
   * nothing of it was ever deleted: the log of changes is read from the new beginning on.)
   */
  #beginAnew(feedId: string, run: RunRow): void {
    this.#db.$client
      .prepare('update feed_keys set run = run - 1 where feed_id = ? and run = ?')
      .run(feedId, run.number);
    Object.assign(run, { read: 0, same: 0, failed: 0, nameless: 0, reason: null, shape: null });
  }

  #hasDead(feedId: string): boolean {
    const row = this.#db.$client
      .prepare(`select 1 from feed_events where feed_id = ? and source = '${BY_RUN}' limit 1`)
      .get(feedId);
    return row !== undefined;
  }

  #read({ keyField, mapping }: RunTarget, keyIn: string, line: SourceLine): Line {
    if ('error' in line) {
      if ('key' in line) return { problem: `Not stored: ${line.error}.`, key: line.key, json: null };
      return { problem: `Line ${line.line}: ${line.error}.`, key: null, json: null };
    }
    let key: string | null = null;
    try {
      const came = checkRecord(JSON.parse(line.json));
      key = keyOf(came, keyIn);
      const record = checkRecord(mapRecord(came, mapping, this.#lookup));
      key = keyOf(record, keyField) ?? key;
      if (key === null) throw new RecordError(`the record has no “${keyIn}”`);
      checkKey(key);
      return {
        key,
        json: line.json,
        print: line.print,
        record: Object.hasOwn(record, keyField) ? record : { [keyField]: key, ...record },
      };
    } catch (error) {
      if (!(error instanceof RecordError) && !(error instanceof RangeError)) throw error;
      const message = error instanceof RecordError ? error.message : 'the record is nested too deeply';
      return { problem: `Not stored: ${message}.`, key, json: line.json };
    }
  }

  #write(target: RunTarget, run: RunRow, line: Line, hadDead: boolean): void {
    const { feedId, collectionId } = target;
    if ('problem' in line) return this.#fail(target, run, line);
    const { key, record, json, print } = line;
    const newest = this.#newest.get(feedId, key) as number | undefined;
    if (newest !== undefined && newest > run.order) {
      run.same++;
      this.#seen.run(run.number, feedId, key);
      return;
    }
    try {
      const { did, versionId } = this.#store.attempt(() => this.#store.put(collectionId, key, record, 'replace'));
      run[did === 'unchanged' ? 'same' : 'written']++;
      this.#mark.run(feedId, key, run.order, run.number, versionId, print?.hash ?? null, print?.part ?? null);
      if (hadDead) this.#lives.run(feedId, key);
    } catch (error) {
      if (!(error instanceof RecordError)) throw error;
      this.#fail(target, run, { problem: `Not stored: ${error.message}.`, key, json });
    }
  }

  #fail({ feedId }: RunTarget, run: RunRow, { problem, key, json }: Extract<Line, { problem: string }>): void {
    run.failed++;
    run.reason ??= problem;
    if (key === null) {
      run.nameless++;
      return;
    }
    // The record as it was before stays.
    this.#seen.run(run.number, feedId, key);
    this.#died.run(feedId, key, key, json, run.order, problem, Date.now());
  }

  /** Records that this feed brought and this run has not seen, unless another feed has them too. */
  #gone({ feedId, collectionId }: RunTarget, run: RunRow): string[] {
    return this.#db.$client
      .prepare(
        `select k.key from feed_keys k
         join records r on r.collection_id = ? and r.key = k.key
         where k.feed_id = ? and k.run < ? and k."order" <= ?
         and not exists (select 1 from feed_keys o join feeds f on f.id = o.feed_id where o.key = k.key and o.feed_id <> k.feed_id and f.collection_id = ?)`,
      )
      .pluck()
      .all(collectionId, feedId, run.number, run.order, collectionId) as string[];
  }

  #owned({ feedId, collectionId }: RunTarget): number {
    return this.#db.$client
      .prepare(
        'select count(*) from feed_keys k join records r on r.collection_id = ? and r.key = k.key where k.feed_id = ?',
      )
      .pluck()
      .get(collectionId, feedId) as number;
  }

  async #delete({ feedId, collectionId }: RunTarget, run: RunRow, keys: readonly string[]): Promise<void> {
    // Where changes are logged, an older one may still come: it must not bring the record back.
    const logs = run.order !== run.number;
    const forget = this.#db.$client.prepare('delete from feed_keys where feed_id = ? and key = ?');
    for (let at = 0; at < keys.length; at += AT_ONCE) {
      const deleted = this.#store.transaction(
        collectionId,
        () =>
          keys.slice(at, at + AT_ONCE).filter((key) => {
            const newest = this.#newest.get(feedId, key) as number | undefined;
            if (newest !== undefined && newest > run.order) return false;
            if (logs) this.#mark.run(feedId, key, run.order, run.number, 0, null, null);
            else forget.run(feedId, key);
            return this.#store.remove(collectionId, key);
          }).length,
      );
      run.deleted += deleted;
      this.#db.update(feedRuns).set({ deleted: run.deleted }).where(eq(feedRuns.number, run.number)).run();
      await new Promise((resolve) => setImmediate(resolve));
    }
  }
}

type Line =
  | { key: string; record: RecordJson; json: string; print: Print | undefined }
  | { problem: string; key: string | null; json: string | null };
