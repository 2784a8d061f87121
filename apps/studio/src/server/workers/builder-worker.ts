/** The builder: makes and opens the large segments, so that neither writes nor requests wait for it. */
import { workerData } from 'node:worker_threads';
import { openDb } from '../db/open';
import { buildSegment, type BuildJob, type BuiltSegment } from '../index/build-segment';
import { readSegmentFile, writeSegmentFile } from '../index/segment-file';
import { storageCodeOf } from '../storage/storage-failure';
import { serve } from './rpc';
import type { ThreadData } from './spawn';

const { dataDir } = workerData as ThreadData;
const db = openDb(dataDir, { readonly: true });

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
   * memory: `unsaved` is the code of what the disk said.
   */
  build(job: BuildJob, file: string): BuiltSegment & { tookMs: number; unsaved: string | null } {
    const start = performance.now();
    const built = buildSegment(db, job);
    const unsaved = built.buffer === null ? null : save(file, built.buffer);
    return { ...built, unsaved, tookMs: performance.now() - start };
  },

  /** Writes a segment that could not be written before. Answers what the disk says; null = written. */
  save,

  /** Opens a file and checks it. Throws when it is missing or damaged. */
  open(file: string): SharedArrayBuffer {
    return readSegmentFile(file);
  },
};

export type BuilderMethods = typeof methods;

serve(methods);
