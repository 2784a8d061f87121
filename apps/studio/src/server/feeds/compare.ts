import type { FeedComparison, FieldRule, RecordJson } from '@yucca/contract';
import type { Db } from '../db/open';
import { RecordError } from '../records/record-store';
import type { FeedTarget } from './apply-changes';
import { lookupIn, type Lookup } from './lookup-in';
import { differingFields, readLine, rulesOf, type BadLine } from './source-records';

/** Keys of each kind that are named. */
export const SAMPLES = 20;

/** A comparison before its first record. */
export const nothingCompared = (): FeedComparison => ({
  records: 0,
  same: 0,
  missing: 0,
  different: 0,
  extra: 0,
  unreadable: 0,
  samples: { missing: [], different: [], extra: [], unreadable: [] },
});

/** Finds how a collection differs from its source, line by line; nothing is changed. */
export class Comparison {
  readonly #target: FeedTarget;
  readonly #rules: readonly FieldRule[];
  readonly #lookup: Lookup;
  readonly #find;
  readonly #keys;
  /** Keys of the source: a million take about 100 MB. */
  readonly #seen = new Set<string>();
  readonly #told = nothingCompared();
  #line = 0;

  constructor(db: Db, target: FeedTarget) {
    this.#target = target;
    this.#lookup = lookupIn(db);
    this.#rules = rulesOf(db, target.collectionId);
    this.#find = db.$client.prepare('select json from records where collection_id = ? and key = ?').pluck();
    this.#keys = db.$client.prepare('select key from records where collection_id = ?').pluck();
  }

  add(lines: readonly string[]): void {
    for (const text of lines) {
      this.#line++;
      if (text.trim() !== '') this.#compare(text);
    }
  }

  #compare(text: string): void {
    const { samples } = this.#told;
    try {
      const { key, record } = readLine(text, this.#target, this.#lookup);
      this.#told.records++;
      this.#seen.add(key);
      const json = this.#find.get(this.#target.collectionId, key) as string | undefined;
      if (json === undefined) {
        this.#told.missing++;
        if (samples.missing.length < SAMPLES) samples.missing.push(key);
        return;
      }
      const fields = differingFields(JSON.parse(json) as RecordJson, record, this.#rules);
      if (fields.length === 0) this.#told.same++;
      else {
        this.#told.different++;
        if (samples.different.length < SAMPLES) samples.different.push({ key, fields: fields.slice(0, 10) });
      }
    } catch (error) {
      if (!(error instanceof RecordError)) throw error;
      this.#told.unreadable++;
      const bad: BadLine = { line: this.#line, detail: error.message };
      if (samples.unreadable.length < SAMPLES) samples.unreadable.push(bad);
    }
  }

  /** What was found, once all of the source is there. */
  end(): FeedComparison {
    for (const key of this.#keys.iterate(this.#target.collectionId) as IterableIterator<string>) {
      if (this.#seen.has(key)) continue;
      this.#told.extra++;
      if (this.#told.samples.extra.length < SAMPLES) this.#told.samples.extra.push(key);
    }
    return this.#told;
  }
}
