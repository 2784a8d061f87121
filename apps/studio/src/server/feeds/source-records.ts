/** The records of a source, one JSON object a line, beside those of its collection. */
import type { FieldRule, RecordJson } from '@yucca/contract';
import { applyRules } from '@yucca/engine/rules';
import { eq } from 'drizzle-orm';
import { isDeepStrictEqual } from 'node:util';
import type { Db } from '../db/open';
import { collections } from '../db/schema';
import { mapRecord, type Mapping } from './mapping';
import type { Lookup } from './lookup-in';
import { checkKey, checkRecord, keyOf, RecordError } from '../records/record-store';

/** A line that holds no record that could be stored. */
export interface BadLine {
  line: number;
  detail: string;
}

/** How lines are read. */
export interface ReadAs {
  keyField: string;
  mapping: Mapping;
  /** The field of the source that tells records apart, where it is another. */
  keyIn?: string | undefined;
}

export interface SourceRecord {
  key: string;
  /** As it would be stored, before the field rules. */
  record: RecordJson;
}

/** Reads a line of a source: what it would be stored as. Throws a RecordError. */
export function readLine(text: string, { keyField, mapping, keyIn }: ReadAs, lookup: Lookup): SourceRecord {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    throw new RecordError(`the line is not JSON: ${(error as Error).message}`);
  }
  const came = checkRecord(value);
  const record = checkRecord(mapRecord(came, mapping, lookup));
  const key = keyOf(record, keyField) ?? (keyIn === undefined ? null : keyOf(came, keyIn));
  if (key === null) throw new RecordError(`the record has no “${keyIn ?? keyField}”`);
  return { key: checkKey(key), record: Object.hasOwn(record, keyField) ? record : { [keyField]: key, ...record } };
}

/** The field rules of a collection. */
export function rulesOf(db: Db, collectionId: number): FieldRule[] {
  const row = db
    .select({ rules: collections.fieldRules })
    .from(collections)
    .where(eq(collections.id, collectionId))
    .get();
  return JSON.parse(row?.rules ?? '[]') as FieldRule[];
}

/** The fields in which a stored record is another than its source would make it; empty when it is the same. */
export function differingFields(stored: RecordJson, source: RecordJson, rules: readonly FieldRule[]): string[] {
  const wanted = applyRules(source, rules);
  const names = new Set([...Object.keys(stored), ...Object.keys(wanted)]);
  return [...names].filter((name) => !isDeepStrictEqual(stored[name], wanted[name]));
}
