/** The reader: whatever has to go through all records of a collection without changing them. */
import type { FieldRule, Profile, RuleEffect } from '@yucca/contract';
import { Profiler } from '@yucca/engine/profile';
import { EffectCounter } from '@yucca/engine/rules';
import { workerData } from 'node:worker_threads';
import { openDb } from '../db/open';
import { eachRecord } from '../reading/each-record';
import { exportRecords, type ExportOrder } from '../reading/export';
import { serve } from './rpc';
import type { ThreadData } from './spawn';

const { dataDir } = workerData as ThreadData;
const db = openDb(dataDir, { readonly: true });
const running = new Map<string, { pieces: Generator<string>; close: () => void }>();

const asSet = (keys: string[] | null): Set<string> | null => (keys === null ? null : new Set(keys));

const methods = {
  profile(collectionId: number, keyField: string, keys: string[] | null): Profile {
    const start = performance.now();
    const profiler = new Profiler(keyField);
    for (const { record } of eachRecord(db, collectionId, asSet(keys))) profiler.add(record());
    return profiler.finish(Math.round(performance.now() - start));
  },

  /** What a rule would do to the records that are here. */
  ruleEffect(collectionId: number, rule: FieldRule): RuleEffect {
    const counter = new EffectCounter(rule);
    for (const { key, record } of eachRecord(db, collectionId, null)) counter.add(key, record());
    return counter.finish();
  },

  /** Begins an export on a connection of its own: it stays open between pieces. */
  exportBegin(id: string, { keys, ...order }: Omit<ExportOrder, 'keys'> & { keys: string[] | null }): void {
    const own = openDb(dataDir, { readonly: true });
    running.set(id, {
      pieces: exportRecords(own, { ...order, keys: asSet(keys) }),
      close: () => own.$client.close(),
    });
  },

  /** The next piece; null when there is no more. */
  exportNext(id: string): string | null {
    const one = running.get(id);
    const next = one?.pieces.next();
    if (next && !next.done) return next.value;
    methods.exportEnd(id);
    return null;
  },

  exportEnd(id: string): void {
    const one = running.get(id);
    if (!one) return;
    running.delete(id);
    one.pieces.return(undefined);
    one.close();
  },
};

export type ReaderMethods = typeof methods;

serve(methods);
