/** The builder: makes and opens the large segments, so that neither writes nor requests wait for it. */
import { buildColumnSegment, Segment, type AddedColumns } from '@yucca/engine';
import { workerData } from 'node:worker_threads';
import { openDb } from '../db/open';
import { boundsOf, buildSegment, type BuildJob, type BuiltSegment } from '../index/build-segment';
import { GrowingBuild } from '../index/growing-build';
import { readSegmentFiles, writeSegmentFile, type OpenedFiles } from '../index/segment-file';
import { storageCodeOf } from '../storage/storage-failure';
import { giveWay } from './give-way';
import { beat, serve, StateLost, tell } from './rpc';
import type { ThreadData } from './spawn';
import { sharedMemory, weighed } from '../index/shared-memory';

const { dataDir, givesWay } = workerData as ThreadData;
const db = openDb(dataDir, { readonly: true });

/** Told while a segment is built: how many records are in it so far. */
export interface BuildProgress {
  segment: string;
  records: number;
}

const TELL_EVERY_MS = 200;

function save(file: string, buffer: SharedArrayBuffer): string | null {
  try {
    writeSegmentFile(file, weighed(buffer));
    return null;
  } catch (error) {
    const code = storageCodeOf(error);
    if (code !== null) return code;
    throw error;
  }
}

/** Records that a growing segment takes in before other messages get their turn. */
const GROW_AT_ONCE = 500;

/** A segment that grows, as it is told from outside. */
interface Growing {
  build: GrowingBuild;
  /** The last version it is to hold; null = more is to come. */
  toVersion: number | null;
  dropped: boolean;
  /** Lets it look for more. */
  wake: () => void;
}
const growing = new Map<string, Growing>();

function growingOf(segment: string): Growing {
  const one = growing.get(segment);
  if (!one) throw new StateLost('the segment was begun by another');
  return one;
}

/** Tells how far a segment is, unless that was told just now; returns when it was told last. */
function tellEvery(told: number, segment: string, records: number): number {
  if (performance.now() - told < TELL_EVERY_MS) return told;
  tell({ segment, records } satisfies BuildProgress);
  return performance.now();
}

type Saved = BuiltSegment & { tookMs: number; unsaved: string | null };

const methods = {
  /**
   * Builds a segment and writes its file before answering. When the disk refuses, the segment is there all the same, in
   * memory: `unsaved` is the code of what the disk said. `segment`: its id, by which it is told how far the build is.
   */
  build(job: BuildJob, file: string, segment: string): Saved {
    const start = performance.now();
    let told = start;
    const built = buildSegment(db, job, (records) => (told = tellEvery(told, segment, records)));
    const unsaved = built.buffer === null ? null : save(file, built.buffer);
    return { ...built, unsaved, tookMs: performance.now() - start };
  },

  /**
   * Builds a segment of what is there and of what is still being written: `growOn` says that there is more, `growUpTo`
   * where it ends; then it is laid out, written and returned. Null when it was not wanted any more.
   */
  async grow(job: BuildJob, file: string, segment: string): Promise<Saved | null> {
    const one: Growing = { build: new GrowingBuild(db, job), toVersion: null, dropped: false, wake: () => {} };
    growing.set(segment, one);
    let told = performance.now();
    try {
      for (;;) {
        const { toVersion } = one;
        const came = one.build.add(GROW_AT_ONCE, toVersion ?? Infinity);
        beat();
        told = tellEvery(told, segment, one.build.docs);
        if (came < GROW_AT_ONCE && toVersion !== null) break;
        if (came === GROW_AT_ONCE) await new Promise((resolve) => setImmediate(resolve));
        else await new Promise<void>((resolve) => (one.wake = resolve));
        if (one.dropped) return null;
      }
      const start = performance.now();
      const built = one.build.finish(one.toVersion!);
      return {
        ...built,
        unsaved: built.buffer === null ? null : save(file, built.buffer),
        tookMs: performance.now() - start,
      };
    } finally {
      growing.delete(segment);
    }
  },

  growOn(segment: string): void {
    growingOf(segment).wake();
  },

  /** Ends a growing segment at a version, or, of several threads that share the rest, at the end of its part. */
  growUpTo(segment: string, to: number, parts: number): number[] {
    const one = growingOf(segment);
    const { collectionId, docs, reached } = one.build;
    const bounds = parts === 1 ? [] : boundsOf(db, { collectionId, after: reached, to, ahead: docs, parts });
    one.toVersion = bounds[0] ?? to;
    one.wake();
    return bounds;
  },

  growStop(segment: string): void {
    const one = growing.get(segment);
    if (!one) return;
    one.dropped = true;
    one.wake();
  },

  /** See boundsOf. */
  bounds(job: Pick<BuildJob, 'collectionId' | 'fromVersion'>, to: number, parts: number): number[] {
    return boundsOf(db, { collectionId: job.collectionId, after: job.fromVersion, to, ahead: 0, parts });
  },

  /** Builds what stays in memory. */
  inMemory(job: BuildJob): BuiltSegment {
    return buildSegment(db, job);
  },

  /**
   * Makes the columns that a segment lacks and writes their file; `columns`: the id by which it is told how far it is.
   */
  addColumns(
    { buffer, added }: OpenedFiles,
    more: AddedColumns,
    file: string,
    columns: string,
  ): { buffer: SharedArrayBuffer; unsaved: string | null; tookMs: number } {
    const start = performance.now();
    const segment = new Segment(weighed(buffer), { verify: false, added: added.map(weighed) });
    let [told, read] = [start, 0];
    const made = buildColumnSegment(segment, more, sharedMemory, (docs) => {
      beat();
      told = tellEvery(told, columns, (read += docs));
    });
    return { buffer: made, unsaved: save(file, made), tookMs: performance.now() - start };
  },

  /** Writes a segment that could not be written before. Returns what the disk says; null = written. */
  save,

  /** Opens a segment and what was added to it, and checks them. Throws when a file is missing or damaged. */
  open(file: string, added: readonly string[]): OpenedFiles {
    return readSegmentFiles(file, added);
  },
};

export type BuilderMethods = typeof methods;

if (givesWay) giveWay();
serve(methods);
