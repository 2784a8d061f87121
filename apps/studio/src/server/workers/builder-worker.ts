/** The builder: makes and opens the large segments, so that neither writes nor requests wait for it. */
import { workerData } from 'node:worker_threads';
import { openDb } from '../db/open';
import { buildSegment, type BuildJob, type BuiltSegment } from '../index/build-segment';
import { readSegmentFile, writeSegmentFile } from '../index/segment-file';
import { storageCodeOf } from '../storage/storage-failure';
import { serve, tell } from './rpc';
import type { ThreadData } from './spawn';

const { dataDir } = workerData as ThreadData;
const db = openDb(dataDir, { readonly: true });

/** Told while a segment is built: how many records are in it so far. */
export interface BuildProgress {
  segment: string;
  records: number;
}

const TELL_EVERY_MS = 200;

function save(file: string, buffer: SharedArrayBuffer): string | null {
  try {
    writeSegmentFile(file, buffer);
    return null;
  } catch (error) {
    const code = storageCodeOf(error);
    if (code !== null) return code;
    throw error;
  }
}

const methods = {
  /**
   * Builds a segment and writes its file before answering. When the disk refuses, the segment is there all the same, in
   * memory: `unsaved` is the code of what the disk said. `segment`: its id, by which it is told how far the build is.
   */
  build(job: BuildJob, file: string, segment: string): BuiltSegment & { tookMs: number; unsaved: string | null } {
    const start = performance.now();
    let told = start;
    const built = buildSegment(db, job, (records) => {
      if (performance.now() - told < TELL_EVERY_MS) return;
      told = performance.now();
      tell({ segment, records } satisfies BuildProgress);
    });
    const unsaved = built.buffer === null ? null : save(file, built.buffer);
    return { ...built, unsaved, tookMs: performance.now() - start };
  },

  /** Builds what stays in memory. */
  inMemory(job: BuildJob): BuiltSegment {
    return buildSegment(db, job);
  },

  /** Writes a segment that could not be written before. Returns what the disk says; null = written. */
  save,

  /** Opens a file and checks it. Throws when it is missing or damaged. */
  open(file: string): SharedArrayBuffer {
    return readSegmentFile(file);
  },
};

export type BuilderMethods = typeof methods;

serve(methods);
