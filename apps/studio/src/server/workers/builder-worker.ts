/** The builder: makes and opens the large segments, so that neither writes nor requests wait for it. */
import { workerData } from 'node:worker_threads';
import { openDb } from '../db/open';
import { buildSegment, type BuildJob, type BuiltSegment } from '../index/build-segment';
import { readSegmentFile, writeSegmentFile } from '../index/segment-file';
import { serve } from './rpc';
import type { ThreadData } from './spawn';

const { dataDir } = workerData as ThreadData;
const db = openDb(dataDir, { readonly: true });

const methods = {
  /** Builds a segment and writes its file before answering. */
  build(job: BuildJob, file: string): BuiltSegment & { tookMs: number } {
    const start = performance.now();
    const built = buildSegment(db, job);
    if (built.buffer !== null) writeSegmentFile(file, built.buffer);
    return { ...built, tookMs: performance.now() - start };
  },

  /** Opens a file and checks it. Throws when it is missing or damaged. */
  open(file: string): SharedArrayBuffer {
    return readSegmentFile(file);
  },
};

export type BuilderMethods = typeof methods;

serve(methods);
