import type { Condition, FieldName } from './parse.ts';
import { allOf, anyOf, testFor, type ValueTest } from './value-test.ts';

/** A condition as it is decided: the comparisons of one field made one wherever that says the same. */
export type Decision =
  | { op: 'and' | 'or'; parts: Decision[]; key: string }
  | { op: 'not'; part: Decision; key: string }
  | { op: 'constant'; value: boolean; key: string }
  | { op: 'isNull'; field: FieldName; key: string }
  | Test;

/** What a field's values have to pass. */
interface Test {
  op: 'test';
  field: FieldName;
  test: ValueTest;
  key: string;
}

/**
 * Joins the comparisons of a field, so that `stock = 1 OR stock = 2 OR ...` is one look at each document however long
 * it is. Under OR that is always right: some value passes one of the tests or it does not. Under AND it is for fields
 * that hold at most one value: of several, one may pass the first test and another the second. What stands twice is
 * kept once. `key` is the same for what says the same.
 */
export function simplify(condition: Condition, isSingle: (path: string) => boolean): Decision {
  switch (condition.op) {
    case 'constant':
      return { op: 'constant', value: condition.value, key: String(condition.value) };
    case 'isNull':
      return { op: 'isNull', field: condition.field, key: `null ${JSON.stringify(condition.field.path)}` };
    case 'not':
      return not(simplify(condition.part, isSingle));
    case 'or':
      return combine('or', partsOf(condition, isSingle), () => true);
    case 'and': {
      const parts = partsOf(condition, isSingle);
      // NOT a AND NOT b is NOT (a OR b), by De Morgan, for unknown too; and under OR any field's tests can be joined.
      const refused = parts.flatMap((part) => (part.op === 'not' ? [part.part] : []));
      if (refused.length < 2) return combine('and', parts, isSingle);
      const others = parts.filter(({ op }) => op !== 'not');
      return combine('and', [...others, not(combine('or', refused.flatMap(within('or')), () => true))], isSingle);
    }
    default: {
      const { field, ...rest } = condition;
      return { op: 'test', field, test: testFor(condition), key: JSON.stringify([field.path, rest]) };
    }
  }
}

function not(part: Decision): Decision {
  return part.op === 'not' ? part.part : { op: 'not', part, key: `not ${part.key}` };
}

/** The parts, those of a part of the same kind in its place. */
function partsOf({ op, parts }: Condition & { op: 'and' | 'or' }, isSingle: (path: string) => boolean): Decision[] {
  return parts.map((part) => simplify(part, isSingle)).flatMap(within(op));
}

const within =
  (op: 'and' | 'or') =>
  (part: Decision): Decision[] =>
    part.op === op ? part.parts : [part];

function combine(op: 'and' | 'or', parts: readonly Decision[], joins: (path: string) => boolean): Decision {
  const byField = new Map<string, Test[]>();
  const others = new Map<string, Decision>();
  const seen = new Set<string>();
  for (const part of parts) {
    if (seen.has(part.key)) continue;
    seen.add(part.key);
    const tests = part.op === 'test' && joins(part.field.path) ? byField.get(part.field.path) : undefined;
    if (part.op !== 'test' || !joins(part.field.path)) others.set(part.key, part);
    else if (tests === undefined) byField.set(part.field.path, [part]);
    else tests.push(part);
  }
  const joined = Array.from(byField.values(), (tests): Decision => {
    if (tests.length === 1) return tests[0]!;
    const join = op === 'or' ? anyOf : allOf;
    return { ...tests[0]!, test: join(tests.map(({ test }) => test)), key: keyOf(op, tests) };
  });
  const all = [...joined, ...others.values()];
  return all.length === 1 ? all[0]! : { op, parts: all, key: keyOf(op, all) };
}

const keyOf = (op: string, parts: readonly Decision[]): string => `${op} [${parts.map(({ key }) => key).join(' ')}]`;
