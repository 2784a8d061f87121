import type { IndexPlan } from '@yucca/engine';
import { and, eq, lte } from 'drizzle-orm';
import { existsSync, readdirSync } from 'node:fs';
import { rm, rmdir } from 'node:fs/promises';
import path from 'node:path';
import type { Logger } from 'pino';
import type { Db } from '../db/open';
import { segments as segmentRows, tombstones } from '../db/schema';
import { storageCodeOf } from '../storage/storage-failure';
import type { StorageHealth } from '../storage/storage-health';
import {
  bytesOf,
  markDeleted,
  newLayer,
  type Built,
  type Layer,
  type Layers,
  type Piece,
  type UnsavedRow,
} from './layers';
import type { OpenedFiles } from './segment-file';

/** How many records stand after a version, counted no further than `limit`, and the newest version there is. */
export interface Waiting {
  newest: number;
  waiting: number;
}

export interface SegmentStoreParts {
  db: Db;
  dataDir: string;
  storage: Pick<StorageHealth, 'heard'>;
  /** Settles when all rows that were written are on the disk. */
  flushed: () => Promise<void>;
  log: Logger;
}

/** The segments of collections on the disk: their files, and the rows that speak of them. */
export class SegmentStore {
  readonly #db: Db;
  readonly #dataDir: string;
  readonly #storage: Pick<StorageHealth, 'heard'>;
  readonly #flushed: () => Promise<void>;
  readonly #log: Logger;
  #removed: Promise<unknown> = Promise.resolve();

  constructor({ db, dataDir, storage, flushed, log }: SegmentStoreParts) {
    this.#db = db;
    this.#dataDir = dataDir;
    this.#storage = storage;
    this.#flushed = flushed;
    this.#log = log;
  }

  folder(collectionId: number): string {
    return path.join(this.#dataDir, 'segments', String(collectionId));
  }

  file(collectionId: number, id: string): string {
    return path.join(this.folder(collectionId), `${id}.seg`);
  }

  /**
   * Removes files that are not in use any more, once the rows say so on the disk. A pool of the system's threads does
   * it: a disk may take a quarter of a second for the file of a large segment, and as long nobody would be answered.
   */
  removeFiles(collectionId: number, ids: readonly string[]): void {
    this.#remove(async () => {
      await this.#flushed();
      for (const id of ids) await rm(this.file(collectionId, id), { force: true });
    });
  }

  /** Removes the files of segments that are not in use any more. */
  removeLayers(collectionId: number, layers: readonly Layer[]): void {
    const ids = layers.flatMap(({ id, added }) => [id, ...added.map((one) => one.id)]);
    if (ids.length > 0) this.removeFiles(collectionId, ids);
  }

  removeFolder(collectionId: number): void {
    this.#remove(async () => {
      await this.#flushed();
      await rm(this.folder(collectionId), { recursive: true, force: true, maxRetries: 3 });
    });
  }

  removeFolderIfEmpty(collectionId: number): void {
    const folder = this.folder(collectionId);
    this.#remove(async () => {
      if (existsSync(folder) && readdirSync(folder).length === 0) await rmdir(folder);
    });
  }

  /** One after the other; what the disk refuses is removed when the index is opened the next time. */
  #remove(remove: () => Promise<void>): void {
    this.#removed = this.#removed.then(remove).catch((error: Error) => {
      if (!this.#storage.heard(error)) this.#log.warn({ error: error.message }, 'a file was not removed');
    });
  }

  /** Settles when all that is not in use any more is gone from the disk. */
  async removed(): Promise<void> {
    await this.#removed;
  }

  /**
   * Opens what is whole on disk and made by a plan that `usable` takes, and notes the gaps. `open` reads and checks the
   * files of a segment; a gap at the end of at most `freshRecords` is none: the fresh part covers it.
   */
  async openLayers(
    entry: Layers,
    usable: (plan: IndexPlan) => boolean,
    open: (file: string, added: string[]) => Promise<OpenedFiles>,
    freshRecords: number,
  ): Promise<void> {
    const { collectionId } = entry;
    const rows = this.#db
      .select()
      .from(segmentRows)
      .where(eq(segmentRows.collectionId, collectionId))
      .orderBy(segmentRows.toVersion)
      .all();
    let reached = 0;
    let lastTombstone = Infinity;
    for (const row of rows) {
      if (row.fromVersion < reached || !usable(JSON.parse(row.plan) as IndexPlan)) continue;
      try {
        const ids = JSON.parse(row.added) as string[];
        const files = ids.map((id) => this.file(collectionId, id));
        const { buffer, added } = await open(this.file(collectionId, row.id), files);
        const opened = added.map((bytes, i) => ({ id: ids[i]!, buffer: bytes, unsaved: null }));
        entry.layers.push(newLayer(row.id, row.toVersion, buffer, opened));
      } catch (error) {
        this.#log.warn({ collectionId, segment: row.id, reason: (error as Error).message }, 'a segment cannot be used');
        continue;
      }
      if (row.fromVersion > reached) entry.gaps.push({ fromVersion: reached, toVersion: row.fromVersion });
      reached = row.toVersion;
      lastTombstone = Math.min(lastTombstone, row.tombstoneId);
    }
    const { newest, waiting } = this.after(collectionId, reached, freshRecords + 1);
    if (waiting > freshRecords) entry.gaps.push({ fromVersion: reached, toVersion: newest });
    entry.lastTombstone = entry.layers.length > 0 ? lastTombstone : 0;
    this.#forgetRows(entry);
  }

  /** What every stored segment of a collection was made for. */
  plans(collectionId: number): IndexPlan[] {
    const rows = this.#db
      .select({ plan: segmentRows.plan })
      .from(segmentRows)
      .where(eq(segmentRows.collectionId, collectionId))
      .all();
    return rows.map(({ plan }) => JSON.parse(plan) as IndexPlan);
  }

  after(collectionId: number, versionId: number, limit: number): Waiting {
    return this.#db.$client
      .prepare(
        `select coalesce((select max(version_id) from records where collection_id = @collectionId), 0) as newest,
                (select count(*) from
                  (select 1 from records where collection_id = @collectionId and version_id > @versionId limit @limit)
                ) as waiting`,
      )
      .get({ collectionId, versionId, limit }) as Waiting;
  }

  /** The version before the last so many records of a range; its beginning when it holds fewer. */
  versionBefore(collectionId: number, from: number, to: number, records: number): number {
    const version = this.#db.$client
      .prepare(
        `select version_id from records where collection_id = ? and version_id > ? and version_id <= ?
         order by version_id desc limit 1 offset ?`,
      )
      .pluck()
      .get(collectionId, from, to, records) as number | undefined;
    return version ?? from;
  }

  /** Takes away the rows of segments that are not in use. */
  #forgetRows({ collectionId, layers }: Layers): void {
    const used = new Set(layers.map(({ id }) => id));
    this.try(() => {
      const rows = this.#db
        .select({ id: segmentRows.id })
        .from(segmentRows)
        .where(eq(segmentRows.collectionId, collectionId))
        .all();
      for (const { id } of rows) if (!used.has(id)) this.#db.delete(segmentRows).where(eq(segmentRows.id, id)).run();
    });
  }

  /**
   * Takes built segments over, on disk and in memory: after the other layers, or (the first from version 0) in place of
   * all of them. `own`: how many of the builds under way this is.
   */
  adopt(entry: Layers, pieces: readonly Piece[], plan: IndexPlan, own: 0 | 1): void {
    const { collectionId } = entry;
    const isWhole = pieces[0]!.fromVersion === 0;
    const replaced = isWhole ? entry.layers : [];
    // Of parts that were built side by side each was begun at a moment of its own.
    const tombstoneId = Math.min(...pieces.map(({ built }) => built.tombstoneId));
    const added = pieces.flatMap(({ built, fromVersion }) => {
      if (built.buffer === null) return [];
      const { id, toVersion } = built;
      const row = {
        id,
        collectionId,
        fromVersion,
        toVersion,
        plan: JSON.stringify(plan),
        tombstoneId: built.tombstoneId,
      };
      return [{ layer: newLayer(id, toVersion, built.buffer), row, built }];
    });
    this.try(() =>
      this.#db.$client
        .transaction(() => {
          if (isWhole) this.#db.delete(segmentRows).where(eq(segmentRows.collectionId, collectionId)).run();
          if (added.length === 0) return;
          for (const { layer, row, built } of added) this.keepRow(layer, row, built);
          // With these segments alone, tombstones that all were built after concern nobody any more: unless something
          // else is being built that was begun before.
          if (isWhole && entry.underWay === own)
            this.#db
              .delete(tombstones)
              .where(and(eq(tombstones.collectionId, collectionId), lte(tombstones.id, tombstoneId)))
              .run();
        })
        .immediate(),
    );
    const layers = added.map(({ layer }) => layer);
    entry.layers = isWhole ? layers : [...entry.layers, ...layers];
    entry.recent = null;
    entry.fresh = null;
    entry.plan = plan;
    for (const { built } of pieces) markDeleted(entry, built.deleted);
    entry.lastTombstone = isWhole ? tombstoneId : Math.min(entry.lastTombstone, tombstoneId);
    if (isWhole) entry.gaps = [];
    this.removeLayers(collectionId, replaced);
  }

  /**
   * Notes that all segments of an index fulfil its plan, and what was added to them for it. As long as the disk has
   * refused some of that, a restart finds the index as it was before.
   */
  keepPlan({ plan: of, layers }: Layers): void {
    const refused = layers.flatMap(({ added }) => added).find(({ unsaved }) => unsaved !== null);
    if (refused) return this.#heard(refused.unsaved!);
    const plan = JSON.stringify(of);
    this.try(() =>
      this.#db.$client
        .transaction(() => {
          for (const layer of layers) {
            const held = { plan, added: JSON.stringify(layer.added.map(({ id }) => id)) };
            if (layer.unsaved) Object.assign(layer.unsaved, held);
            else this.#db.update(segmentRows).set(held).where(eq(segmentRows.id, layer.id)).run();
          }
        })
        .immediate(),
    );
  }

  /** The disk has refused a file. */
  #heard(code: string): void {
    this.#storage.heard(Object.assign(new Error('a segment was not written'), { code }));
  }

  /** Writes the row of a segment whose file is there; one whose file is not is remembered for later. */
  keepRow(layer: Layer, row: UnsavedRow, { unsaved }: Built): void {
    layer.unsaved = row;
    if (unsaved === null) this.#insertRow(layer, row);
    else this.#heard(unsaved);
  }

  /**
   * Has the files of a layer written that the disk refused before. `write` returns what the disk says, null = written.
   * Returns whether the disk has taken all of it.
   */
  async saveUnsaved(
    entry: Layers,
    layer: Layer,
    write: (file: string, buffer: SharedArrayBuffer) => Promise<string | null>,
  ): Promise<boolean> {
    const { collectionId } = entry;
    const row = layer.unsaved;
    const refused = layer.added.filter(({ unsaved }) => unsaved !== null);
    for (const { id, buffer } of [...(row ? [layer] : []), ...refused])
      if ((await write(this.file(collectionId, id), buffer)) !== null) return false;
    for (const one of refused) one.unsaved = null;
    if (!entry.layers.includes(layer)) {
      // A merge has replaced it meanwhile.
      if (row || refused.length > 0) this.removeLayers(collectionId, [layer]);
      return true;
    }
    if (row) this.#insertRow(layer, row);
    if (refused.length > 0) this.keepPlan(entry);
    return true;
  }

  #insertRow(layer: Layer, row: UnsavedRow): void {
    const bytes = bytesOf(layer);
    if (
      this.try(() =>
        this.#db
          .insert(segmentRows)
          .values({ ...row, bytes })
          .run(),
      )
    )
      delete layer.unsaved;
  }

  /** Runs what writes down the state of the index. A disk that refuses keeps no search from being answered. */
  try(run: () => void): boolean {
    try {
      run();
      return true;
    } catch (error) {
      if (storageCodeOf(error) === null) throw error;
      this.#storage.heard(error);
      return false;
    }
  }

  /** Files no row speaks of: left by a process that was killed between writing a file and its row. */
  removeStrayFiles({ collectionId, layers }: Layers, building: ReadonlySet<string>): void {
    const folder = this.folder(collectionId);
    const used = layers.flatMap(({ id, added }) => [id, ...added.map((one) => one.id)]);
    const known = new Set([...used, ...building].map((id) => `${id}.seg`));
    if (!existsSync(folder)) return;
    const stray = readdirSync(folder).filter((name) => !known.has(name) && !known.has(name.replace(/\.part$/, '')));
    this.#remove(async () => {
      for (const name of stray) await rm(path.join(folder, name), { force: true });
    });
  }
}
