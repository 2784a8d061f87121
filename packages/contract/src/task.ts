export type TaskState = 'queued' | 'running' | 'done' | 'failed' | 'cancelled';

export interface TaskError {
  /** Of the input, from 1. */
  line?: number;
  id?: string;
  pointer?: string;
  detail: string;
  /** The line itself, shortened. */
  text?: string;
}

/** Work that goes on after the request that asked for it. */
export interface Task {
  id: string;
  kind: 'load' | 'repair' | 'index' | 'backup' | 'check';
  /** Empty for what concerns all of them. */
  collection: string;
  state: TaskState;
  /** Rows expected, estimated from the bytes while the input is still arriving. */
  total: number;
  /** Rows stored: they survive a crash from here on. */
  done: number;
  failed: number;
  /** Rows whose key an earlier row of the same load had; the last one was kept. */
  repeated: number;
  /** repair: records that were changed. */
  changed?: number;
  /** The failed lines are kept whole and can be fetched. */
  failedKept?: boolean;
  /** The first hundred. */
  errors: TaskError[];
  /** What the work is busy with, in a few words. */
  step: string;
  /** backup: the name of the folder. */
  backup?: string;
  startedAt: string;
  endedAt: string | null;
}
