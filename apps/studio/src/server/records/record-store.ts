import { LIMITS, type FieldRule, type RecordJson } from '@yucca/contract';
import { applyRules } from '@yucca/engine/rules';
import type { Statement } from 'better-sqlite3';
import { eq, sql } from 'drizzle-orm';
import type { Db } from '../db/open';
import { collections } from '../db/schema';
import { AssignedKeys } from './assigned-keys';
import { applyMergePatch } from './merge-patch';

export type WriteMode = 'replace' | 'merge' | 'insert';

interface Stored {
  versionId: number;
  order: number;
  json: string;
}

export interface WriteOutcome {
  /** `unchanged`: the record already stood there just so. */
  did: 'created' | 'replaced' | 'unchanged';
  /** Which version stood there before; 0 = none. */
  oldVersionId: number;
  /** Which stands there now. */
  versionId: number;
}

/** Why one record could not be written; the sentence is for a person. */
export class RecordError extends Error {
  override name = 'RecordError';
}

/** The collection was deleted while something was being written into it. */
export class CollectionGone extends Error {
  override name = 'CollectionGone';

  constructor() {
    super('The collection was deleted while this ran.');
  }
}

const encoder = new TextEncoder();

/** Checks a record key. Throws a RecordError. */
export function checkKey(key: string): string {
  if (key === '') throw new RecordError('the key is empty');
  if (!key.isWellFormed()) throw new RecordError('the key holds half a character (a lone surrogate)');
  // A UTF-16 unit takes three bytes at most.
  const bytes = key.length * 3 > LIMITS.keyBytes ? encoder.encode(key).length : 0;
  if (bytes > LIMITS.keyBytes) throw new RecordError(`the key is ${bytes} bytes long, more than ${LIMITS.keyBytes}`);
  return key;
}

/** The key of a record by its key field; numbers are taken as their text. `null` when the field is absent or empty. */
export function keyOf(record: RecordJson, keyField: string): string | null {
  const value = Object.hasOwn(record, keyField) ? record[keyField] : undefined;
  if (value === undefined || value === null || value === '') return null;
  if (typeof value === 'string') return checkKey(value);
  if (typeof value === 'number') return String(value);
  throw new RecordError(
    `the key field "${keyField}" holds ${Array.isArray(value) ? 'a list' : `a ${typeof value}`}, not text or a number`,
  );
}

/** Checks that a value may be stored as a record. Throws a RecordError. */
export function checkRecord(value: unknown): RecordJson {
  if (value === null || typeof value !== 'object' || Array.isArray(value)) {
    const what = value === null ? 'null' : Array.isArray(value) ? 'a list' : `a ${typeof value}`;
    throw new RecordError(`a record is a JSON object, this is ${what}`);
  }
  checkShape(value);
  return value as RecordJson;
}

/**
 * Throws a RecordError for a record of too many field paths or levels: everything that knows fields (profile, columns,
 * screens) works by path. Lists do not add paths, so most records are told by their names alone.
 */
function checkShape(record: object): void {
  let names = 0;
  const count = (value: unknown, level: number): void => {
    if (value === null || typeof value !== 'object') return;
    if (level > LIMITS.jsonDepth)
      throw new RecordError(`the record is nested more than ${LIMITS.jsonDepth} levels deep`);
    if (Array.isArray(value)) for (const item of value) count(item, level + 1);
    else
      for (const name in value) {
        names++;
        count((value as Record<string, unknown>)[name], level + 1);
      }
  };
  count(record, 1);
  if (names <= LIMITS.pathsPerRecord) return;
  const paths = new Set<string>();
  const collect = (value: unknown, path: string): void => {
    if (value === null || typeof value !== 'object') return;
    if (Array.isArray(value)) return value.forEach((item) => collect(item, path));
    for (const [name, item] of Object.entries(value)) {
      const below = `${path}.${name}`;
      paths.add(below);
      if (paths.size > LIMITS.pathsPerRecord)
        throw new RecordError(`the record has more than ${LIMITS.pathsPerRecord} fields`);
      collect(item, below);
    }
  };
  collect(record, '');
}

function serialise(record: RecordJson): string {
  const json = JSON.stringify(record);
  const bytes = json.length > LIMITS.recordBytes / 3 ? encoder.encode(json).length : json.length;
  if (bytes > LIMITS.recordBytes) {
    throw new RecordError(`the record is ${Math.ceil(bytes / 1024)} kB, more than ${LIMITS.recordBytes / 1024} kB`);
  }
  return json;
}

/**
 * All writing of records, on one connection. A change to a record is a new version with a new `versionId`; the old
 * version gets a tombstone in the same transaction, so that the segments on disk can always be brought up to the truth.
 */
export class RecordStore {
  readonly #db: Db;
  // Those of every record, as plain SQL: putting values in their places costs Drizzle as much as SQLite the rest.
  readonly #find: Statement<[collectionId: number, key: string], Stored>;
  readonly #insert: Statement<[versionId: number, collectionId: number, order: number, key: string, json: string]>;
  readonly #remove: Statement<[versionId: number]>;
  readonly #addTombstone: Statement<[collectionId: number, versionId: number]>;
  readonly #follow;
  readonly #touch;
  readonly #lastVersion: Statement<[], number>;
  #rules: { json: string; rules: FieldRule[] } = { json: '[]', rules: [] };
  /** The newest version number given out; nobody else gives any while a transaction of ours is open. */
  #last = 0;
  #added = 0;
  #changed = false;

  constructor(db: Db) {
    this.#db = db;
    const client = db.$client;
    this.#find = client.prepare(
      'select version_id as versionId, ord as "order", json from records where collection_id = ? and key = ?',
    );
    this.#insert = client.prepare(
      'insert into records (version_id, collection_id, ord, key, json) values (?, ?, ?, ?, ?)',
    );
    this.#remove = client.prepare('delete from records where version_id = ?');
    this.#addTombstone = client.prepare('insert into tombstones (collection_id, version_id) values (?, ?)');
    this.#lastVersion = client.prepare<[], number>("select seq from sqlite_sequence where name = 'records'").pluck();
    this.#follow = client.prepare(
      'update feed_keys set version = ? where feed_id in (select id from feeds where collection_id = ?) and key = ? and version = ?',
    );
    this.#touch = db
      .update(collections)
      .set({
        records: sql`${collections.records} + ${sql.placeholder('added')}`,
        changedAt: sql`strftime('%Y-%m-%dT%H:%M:%fZ', 'now')`,
      })
      .where(eq(collections.id, sql.placeholder('collectionId')))
      .prepare();
  }

  /**
   * Runs writes to one collection in one transaction: all of them are on the disk when it returns, or none. The
   * collection's count and date of change go with them.
   */
  transaction<T>(collectionId: number, run: () => T): T {
    return this.#db.$client
      .transaction(() => {
        this.#added = 0;
        this.#changed = false;
        this.#last = this.lastVersionId();
        this.#readRules(collectionId);
        const result = run();
        if (this.#changed) this.#touch.run({ collectionId, added: this.#added });
        return result;
      })
      .immediate();
  }

  /** Runs a part of a transaction: all of it is written, or what it throws takes it back and nothing else. */
  attempt<T>(run: () => T): T {
    const before = { added: this.#added, changed: this.#changed };
    try {
      return this.#db.$client.transaction(run)();
    } catch (error) {
      this.#added = before.added;
      this.#changed = before.changed;
      throw error;
    }
  }

  /** Field rules hold for whatever is written, whoever writes it. */
  #readRules(collectionId: number): void {
    const row = this.#db
      .select({ json: collections.fieldRules, name: collections.name })
      .from(collections)
      .where(eq(collections.id, collectionId))
      .get();
    if (!row || row.name === null) throw new CollectionGone();
    const { json } = row;
    if (json !== this.#rules.json) this.#rules = { json, rules: JSON.parse(json) as FieldRule[] };
  }

  /** The newest version number given out so far. */
  lastVersionId(): number {
    return this.#lastVersion.get() ?? 0;
  }

  /** Writes one record, its values read by the field rules. Call inside a transaction. Throws a RecordError. */
  put(collectionId: number, key: string, input: RecordJson, mode: WriteMode): WriteOutcome {
    const record = mode === 'merge' ? input : applyRules(input, this.#rules.rules);
    const old = this.#find.get(collectionId, key);
    if (old === undefined) {
      const first = mode === 'merge' ? this.#merged('{}', record) : record;
      const versionId = this.#addVersion(collectionId, key, serialise(first), null);
      this.#changed = true;
      this.#added++;
      return { did: 'created', oldVersionId: 0, versionId };
    }
    if (mode === 'insert') throw new RecordError(`a record with the key "${key}" is already here`);
    const next = mode === 'merge' ? this.#merged(old.json, record) : record;
    const json = serialise(next);
    if (json === old.json) return { did: 'unchanged', oldVersionId: old.versionId, versionId: old.versionId };
    this.#removeVersion(collectionId, old.versionId);
    const versionId = this.#addVersion(collectionId, key, json, old.order);
    this.#changed = true;
    return { did: 'replaced', oldVersionId: old.versionId, versionId };
  }

  /** Stores a version; `order`: null for the first one of a record. Returns its number. */
  #addVersion(collectionId: number, key: string, json: string, order: number | null): number {
    const versionId = ++this.#last;
    this.#insert.run(versionId, collectionId, order ?? versionId, key, json);
    return versionId;
  }

  #removeVersion(collectionId: number, versionId: number): void {
    this.#remove.run(versionId);
    this.#addTombstone.run(collectionId, versionId);
  }

  /** Writes a record anew as itself, read by other rules: whatever brought it did not become another's work by that. */
  rewrite(collectionId: number, key: string, record: RecordJson): WriteOutcome {
    const outcome = this.put(collectionId, key, record, 'replace');
    if (outcome.did === 'replaced') this.#follow.run(outcome.versionId, collectionId, key, outcome.oldVersionId);
    return outcome;
  }

  #merged(json: string, patch: RecordJson): RecordJson {
    return applyRules(checkRecord(applyMergePatch(JSON.parse(json), patch)), this.#rules.rules);
  }

  /** Deletes one record; false when there is none. Call inside a transaction. */
  remove(collectionId: number, key: string): boolean {
    const old = this.#find.get(collectionId, key);
    if (old === undefined) return false;
    this.#removeVersion(collectionId, old.versionId);
    this.#changed = true;
    this.#added--;
    return true;
  }

  /** A new ledger of keys given to rows without one; close it. */
  assignedKeys(): AssignedKeys {
    return new AssignedKeys(this.#db.$client);
  }

  get(collectionId: number, key: string): RecordJson | null {
    const row = this.#find.get(collectionId, key);
    return row ? (JSON.parse(row.json) as RecordJson) : null;
  }
}
