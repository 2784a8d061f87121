import type { FieldRule, RecordJson } from '@yucca/contract';
import { coerce } from './coercions.ts';

/** Tells what was found at a rule's field and what it was read as. */
export type OnValue = (before: unknown, after: unknown) => void;

/** Reads the fields of a record by the rules. Answers the same record when nothing changes; never changes it. */
export function applyRules(record: RecordJson, rules: readonly FieldRule[], onValue?: OnValue): RecordJson {
  let result: unknown = record;
  for (const rule of rules) result = under(result, rule.field, rule, false, onValue);
  return result as RecordJson;
}

function under(value: unknown, path: string, rule: FieldRule, inList: boolean, onValue?: OnValue): unknown {
  if (Array.isArray(value)) return eachItem(value, path, rule, onValue);
  if (path === '') return atField(value, rule, inList, onValue);
  if (value === null || typeof value !== 'object') return value;
  let fields = value as RecordJson;
  const change = (name: string, rest: string): void => {
    if (!Object.hasOwn(fields, name)) return;
    const after = under(fields[name], rest, rule, false, onValue);
    // fromEntries defines own properties, so a field called __proto__ stays a field.
    if (after !== fields[name])
      fields = Object.fromEntries(Object.entries(fields).map(([key, old]) => [key, key === name ? after : old]));
  };
  change(path, '');
  for (let dot = path.indexOf('.'); dot !== -1; dot = path.indexOf('.', dot + 1))
    change(path.slice(0, dot), path.slice(dot + 1));
  return fields;
}

function eachItem(list: unknown[], path: string, rule: FieldRule, onValue?: OnValue): unknown {
  const read = list.map((item) => under(item, path, rule, true, onValue));
  return read.some((item, i) => item !== list[i]) ? read : list;
}

/** A list inside a list would have no path of its own, so items of a list are never read as lists. */
function atField(value: unknown, rule: FieldRule, inList: boolean, onValue?: OnValue): unknown {
  if (value === null || (inList && rule.as === 'list')) return value;
  const after = coerce(rule, value);
  onValue?.(value, after);
  return after;
}
