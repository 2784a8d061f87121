import type { FieldRule, RecordJson } from '@yucca/contract';
import { applyRules } from '@yucca/engine/rules';
import { and, eq, notInArray } from 'drizzle-orm';
import type { Db } from '../db/open';
import { originals } from '../db/schema';
import type { RecordStore } from './record-store';

const BATCH = 500;

export interface RepairOrder {
  collectionId: number;
  /** The rules as they are stored already: whatever is written meanwhile follows them too. */
  rules: FieldRule[];
}

export interface RepairProgress {
  done: number;
  changed: number;
}

/** The top-level field that a path leads into. */
function topField(record: RecordJson, path: string): string {
  if (Object.hasOwn(record, path)) return path;
  for (let dot = path.indexOf('.'); dot !== -1; dot = path.indexOf('.', dot + 1)) {
    if (Object.hasOwn(record, path.slice(0, dot))) return path.slice(0, dot);
  }
  return path;
}

/**
 * Brings the records that are here in line with the field rules. What a rule changes is kept beside (`originals`), and
 * comes back when the rule is gone, unless somebody has written the field anew since. Works in batches of one transaction
 * each; stopped half-way, it can be asked for again and does the rest.
 */
export async function repairRecords(
  db: Db,
  store: RecordStore,
  { collectionId, rules }: RepairOrder,
  onProgress: (progress: RepairProgress) => void,
  isCancelled: () => boolean,
): Promise<RepairProgress> {
  const progress: RepairProgress = { done: 0, changed: 0 };
  while (!isCancelled() && restoreSome(db, store, collectionId, rules, progress)) await pause();
  let after = 0;
  for (;;) {
    const rows = db.$client
      .prepare('select ord as "order", key, json from records where collection_id = ? and ord > ? order by ord limit ?')
      .all(collectionId, after, BATCH) as { order: number; key: string; json: string }[];
    if (rows.length === 0 || isCancelled()) return progress;
    store.transaction(collectionId, () => {
      for (const { key, json } of rows) {
        progress.done++;
        if (repairOne(db, store, collectionId, key, JSON.parse(json) as RecordJson, rules)) progress.changed++;
      }
    });
    after = rows.at(-1)!.order;
    onProgress(progress);
    await pause();
  }
}

/** Between batches other writes get their turn. */
const pause = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

function repairOne(
  db: Db,
  store: RecordStore,
  collectionId: number,
  key: string,
  record: RecordJson,
  rules: FieldRule[],
): boolean {
  const repaired = applyRules(record, rules);
  if (repaired === record) return false;
  for (const { field } of rules) {
    const top = topField(record, field);
    const before = JSON.stringify(record[top]);
    const after = JSON.stringify(repaired[top]);
    if (before === after) continue;
    db.insert(originals)
      .values({ collectionId, field, key, before, after })
      .onConflictDoUpdate({ target: [originals.collectionId, originals.field, originals.key], set: { before, after } })
      .run();
  }
  store.put(collectionId, key, repaired, 'replace');
  return true;
}

/** Gives back a batch of values whose rule is gone; false when there are none left. */
function restoreSome(
  db: Db,
  store: RecordStore,
  collectionId: number,
  rules: FieldRule[],
  progress: RepairProgress,
): boolean {
  const gone = and(
    eq(originals.collectionId, collectionId),
    notInArray(
      originals.field,
      rules.map(({ field }) => field),
    ),
  );
  const rows = db.select().from(originals).where(gone).limit(BATCH).all();
  if (rows.length === 0) return false;
  store.transaction(collectionId, () => {
    for (const { field, key, before, after } of rows) {
      const record = store.get(collectionId, key);
      const top = record && topField(record, field);
      if (record && top !== null && JSON.stringify(record[top]) === after) {
        const restored = Object.entries(record).map(([name, value]) => [
          name,
          name === top ? JSON.parse(before) : value,
        ]);
        store.put(collectionId, key, Object.fromEntries(restored) as RecordJson, 'replace');
        progress.changed++;
      }
      db.delete(originals)
        .where(and(eq(originals.collectionId, collectionId), eq(originals.field, field), eq(originals.key, key)))
        .run();
    }
  });
  return true;
}
