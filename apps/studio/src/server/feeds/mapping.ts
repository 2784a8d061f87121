/** What a record becomes on its way from its source: renamed, picked, joined, split, read, looked up. */
import { pointerNames, valueAtPointer, type FeedMapping, type FeedMappingStep, type RecordJson } from '@yucca/contract';
import { coerce, isCoerced } from '@yucca/engine/rules';
import { RecordError } from '../records/record-store';
import type { Lookup } from './lookup-in';

export type Mapping = FeedMapping;

/** Stands for all fields that no step has taken. */
const OTHERS = '*';

/**
 * Makes the record that is stored of one that came. `part`: it is a change, and holds only what changes. Throws a
 * RecordError that names the field.
 */
export function mapRecord(record: RecordJson, mapping: Mapping, lookup: Lookup, part = false): RecordJson {
  if (mapping.length === 0) return record;
  const made: RecordJson = {};
  const taken = new Set(mapping.flatMap(({ from = [] }) => from.flatMap(topOf)));
  for (const step of mapping) {
    if (step.field === OTHERS) {
      for (const [name, value] of Object.entries(record)) if (!taken.has(name)) set(made, name, value);
      continue;
    }
    const value = madeBy(step, record, lookup);
    // What a change does not name stays as it is, and so does what is the same for every record.
    if (value === undefined || (part && step.from === undefined)) continue;
    set(made, step.field, value);
  }
  return made;
}

/** A field is taken as a whole when a pointer names it and not something within. */
function topOf(pointer: string): string[] {
  const names = pointerNames(pointer);
  return names.length === 1 ? names : [];
}

/** Sets a member whatever it is called: “__proto__” too. */
function set(record: RecordJson, name: string, value: unknown): void {
  Object.defineProperty(record, name, { value, writable: true, enumerable: true, configurable: true });
}

function madeBy(step: FeedMappingStep, record: RecordJson, lookup: Lookup): unknown {
  const { from, join, split, field } = step;
  if (from === undefined) return step.value;
  const values = from.map((pointer) => (pointer === '' ? record : valueAtPointer(record, pointer)));
  const there = values.filter((value) => value !== undefined && value !== null && value !== '');
  let value: unknown = values.find((one) => one !== undefined);
  if (there.length > 0) value = there[0];
  if (join !== undefined) {
    const items = (from.length > 1 ? there : [value].flat())
      .flat()
      .filter((item) => item !== undefined && item !== null);
    if (items.some((item) => typeof item === 'object')) throw new RecordError(`“${field}”: only texts and numbers can be joined`); // prettier-ignore
    value = items.length === 0 ? undefined : items.join(join);
  }
  if (split !== undefined && typeof value === 'string') value = value.split(split).flatMap((item) => item.trim() || []);
  if (step.lookup !== undefined && value !== undefined && value !== null) value = lookedUp(step, value, lookup);
  return step.as === undefined ? value : read(step, value);
}

function lookedUp({ field, lookup: where }: FeedMappingStep, value: unknown, lookup: Lookup): unknown {
  const { collection, take } = where!;
  const one = (key: unknown): unknown => {
    const found = lookup(collection, String(key));
    if (found === null) throw new RecordError(`“${field}”: ${collection} has no record “${String(key)}”`);
    return take === '' ? found : valueAtPointer(found, take);
  };
  return Array.isArray(value) ? value.map(one) : one(value);
}

function read({ field, as }: FeedMappingStep, value: unknown): unknown {
  if (value === undefined || value === null) return value;
  if (as === 'text') return Array.isArray(value) ? value.map(String) : String(value);
  const rule = { field, as: as! };
  const one = (item: unknown): unknown => {
    const found = coerce(rule, item);
    if (!isCoerced(rule, found)) throw new RecordError(`“${field}”: “${String(item).slice(0, 80)}” cannot be read as a ${as}`); // prettier-ignore
    return found;
  };
  return Array.isArray(value) ? value.map(one) : one(value);
}
