import type { FieldRule, RecordJson } from '@yucca/contract';
import { applyRules } from '@yucca/engine/rules';
import { and, eq, notInArray, sql } from 'drizzle-orm';
import type { Db } from '../db/open';
import { originals } from '../db/schema';
import type { RecordStore } from './record-store';

const BATCH = 500;
/** And what they may take: a writer has one thread, and whoever writes elsewhere waits for a transaction. */
const BATCH_MS = 25;
/** Stands for the value of a field that was not there before a rule made it. */
const WAS_ABSENT = '';

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
 * comes back when the rule is gone, unless somebody has written the field anew since. Works in batches of one
 * transaction each; stopped half-way, it can be asked for again and does the rest.
 */
export async function repairRecords(
  db: Db,
  store: RecordStore,
  { collectionId, rules }: RepairOrder,
  onProgress: (progress: RepairProgress) => void,
  isCancelled: () => boolean,
): Promise<RepairProgress> {
  const progress: RepairProgress = { done: 0, changed: 0 };
  const keep = keepOriginal(db);
  while (!isCancelled() && restoreSome(db, store, collectionId, rules, progress)) await pause();
  let after = 0;
  for (;;) {
    const rows = db.$client
      .prepare('select ord as "order", key, json from records where collection_id = ? and ord > ? order by ord limit ?')
      .all(collectionId, after, BATCH) as { order: number; key: string; json: string }[];
    if (rows.length === 0 || isCancelled()) return progress;
    store.transaction(collectionId, () => {
      const until = performance.now() + BATCH_MS;
      for (const { order, key, json } of rows) {
        progress.done++;
        if (repairOne(keep, store, collectionId, key, JSON.parse(json) as RecordJson, rules)) progress.changed++;
        after = order;
        if (performance.now() > until) break;
      }
    });
    onProgress(progress);
    await pause();
  }
}

/** Between batches other writes get their turn. */
const pause = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

type KeepOriginal = ReturnType<typeof keepOriginal>;

/** Keeps what a field was before a rule changed it. Prepared: a record may have hundreds of such fields. */
function keepOriginal(db: Db) {
  const { placeholder } = sql;
  return db
    .insert(originals)
    .values({
      collectionId: placeholder('collectionId'),
      field: placeholder('field'),
      key: placeholder('key'),
      before: placeholder('before'),
      after: placeholder('after'),
    })
    .onConflictDoUpdate({
      target: [originals.collectionId, originals.field, originals.key],
      set: { before: sql`excluded.before`, after: sql`excluded.after` },
    })
    .prepare();
}

function repairOne(
  keep: KeepOriginal,
  store: RecordStore,
  collectionId: number,
  key: string,
  record: RecordJson,
  rules: FieldRule[],
): boolean {
  const repaired = applyRules(record, rules);
  if (repaired === record) return false;
  for (const { field, from } of rules) {
    const top = from === undefined ? topField(record, field) : field;
    if (record[top] === repaired[top]) continue;
    const before = JSON.stringify(record[top]) ?? WAS_ABSENT;
    const after = JSON.stringify(repaired[top]);
    if (before === after) continue;
    keep.run({ collectionId, field, key, before, after });
  }
  store.rewrite(collectionId, key, repaired);
  return true;
}

/**
 * Gives back the values of a batch of records whose rules are gone, all of a record in one write; false when there are
 * none left.
 */
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
  const keys = db.selectDistinct({ key: originals.key }).from(originals).where(gone).orderBy(originals.key).limit(BATCH).all(); // prettier-ignore
  if (keys.length === 0) return false;
  const goneOf = db
    .select()
    .from(originals)
    .where(and(gone, eq(originals.key, sql.placeholder('key'))))
    .prepare();
  const forget = db
    .delete(originals)
    .where(and(gone, eq(originals.key, sql.placeholder('key'))))
    .prepare();
  store.transaction(collectionId, () => {
    const until = performance.now() + BATCH_MS;
    for (const { key } of keys) {
      const record = store.get(collectionId, key);
      const restored = record && withOriginals(record, goneOf.all({ key }));
      if (restored !== null && restored !== record) {
        store.rewrite(collectionId, key, restored);
        progress.changed++;
      }
      forget.run({ key });
      if (performance.now() > until) break;
    }
  });
  return true;
}

/** A record with what its fields were before; those that somebody has written anew since stay. */
function withOriginals(
  record: RecordJson,
  kept: readonly { field: string; before: string; after: string }[],
): RecordJson {
  const before = new Map<string, string>();
  for (const one of kept) {
    const top = topField(record, one.field);
    if (JSON.stringify(record[top]) === one.after) before.set(top, one.before);
  }
  if (before.size === 0) return record;
  return Object.fromEntries(
    Object.entries(record).flatMap(([name, value]): [string, unknown][] => {
      const was = before.get(name);
      if (was === undefined) return [[name, value]];
      return was === WAS_ABSENT ? [] : [[name, JSON.parse(was)]];
    }),
  ) as RecordJson;
}
