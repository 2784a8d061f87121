import { SegmentBuilder } from '@yucca/engine';
import type { Db } from '../db/open';
import { deletedSince, newestOf, rowsAfter, type BuildJob, type BuiltSegment } from './build-segment';
import { sharedMemory } from './shared-memory';

/** A segment that is built while its records are still being written. */
export class GrowingBuild {
  readonly #db: Db;
  readonly #job: BuildJob;
  readonly #builder: SegmentBuilder;
  /** What was deleted after the first record was read may still be in it. */
  readonly #tombstoneId: number;
  #reached: number;

  constructor(db: Db, job: BuildJob) {
    this.#db = db;
    this.#job = job;
    this.#builder = new SegmentBuilder(job.plan);
    this.#tombstoneId = newestOf(db, job).tombstoneId;
    this.#reached = job.fromVersion;
  }

  get collectionId(): number {
    return this.#job.collectionId;
  }

  get docs(): number {
    return this.#builder.docs;
  }

  /** The version up to which it holds all records. */
  get reached(): number {
    return this.#reached;
  }

  /** Adds the next records, at most so many, none after a version; returns how many there were. */
  add(most: number, toVersion: number): number {
    const rows = rowsAfter(this.#db, this.#job.collectionId, this.#reached, toVersion, most);
    for (const row of rows) this.#builder.add(row);
    this.#reached = rows.at(-1)?.versionId ?? this.#reached;
    return rows.length;
  }

  /** The segment, which covers every version up to this one. */
  finish(toVersion: number): BuiltSegment {
    const { collectionId, sinceTombstone } = this.#job;
    const buffer = this.docs > 0 ? this.#builder.finish(sharedMemory) : null;
    return {
      buffer,
      tooMany: false,
      records: this.docs,
      toVersion,
      tombstoneId: this.#tombstoneId,
      deleted: deletedSince(this.#db, collectionId, sinceTombstone),
    };
  }
}
