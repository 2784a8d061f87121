import { eachNumber, eachValue, LeafType, type NumberColumn, type ValueColumn } from '../columns/column.ts';
import type { Segment } from '../segment/segment.ts';
import { DocSet } from '../sets/doc-set.ts';
import { parseDate } from '../signals/signals.ts';
import type { Comparison, Condition, Literal } from './parse.ts';

/** Where a condition is true and where it is false; elsewhere it is unknown (SQL's three values). */
interface Truth {
  yes: DocSet;
  no: DocSet;
}

/**
 * The documents of a segment for which a condition is true. Each comparison is decided once for each distinct value of the
 * field, then for each document by a look into its column; the rest is algebra on sets.
 */
export function evaluate(segment: Segment, condition: Condition): DocSet {
  return truthOf(segment, condition).yes;
}

function truthOf(segment: Segment, condition: Condition): Truth {
  const { docs } = segment;
  switch (condition.op) {
    case 'constant':
      return condition.value
        ? { yes: DocSet.all(docs), no: new DocSet(docs) }
        : { yes: new DocSet(docs), no: DocSet.all(docs) };
    case 'not': {
      const { yes, no } = truthOf(segment, condition.part);
      return { yes: no, no: yes };
    }
    case 'and':
    case 'or': {
      const [first, ...rest] = condition.parts.map((part) => truthOf(segment, part));
      for (const { yes, no } of rest) {
        if (condition.op === 'and') {
          first!.yes.and(yes);
          first!.no.or(no);
        } else {
          first!.yes.or(yes);
          first!.no.and(no);
        }
      }
      return first!;
    }
    case 'isNull': {
      const present = presentIn(segment, condition.field.path);
      return { yes: DocSet.all(docs).minus(present), no: present };
    }
    default: {
      const { path } = condition.field;
      const yes = new DocSet(docs);
      addMatches(segment, path, testFor(condition), yes);
      return { yes, no: presentIn(segment, path).minus(yes) };
    }
  }
}

/** What decides on single values, by their type. */
interface ValueTest {
  text: ((value: string) => boolean) | null;
  number: ((value: number) => boolean) | null;
  boolean: ((value: boolean) => boolean) | null;
}

function testFor(condition: Exclude<Condition, { op: 'and' | 'or' | 'not' | 'constant' | 'isNull' }>): ValueTest {
  switch (condition.op) {
    case 'compare':
      return compareTest(condition.comparison, condition.value);
    case 'between':
      return both(compareTest('>=', condition.low), compareTest('<=', condition.high));
    case 'in':
      return condition.values.map((value) => compareTest('=', value)).reduce(either);
    case 'like': {
      const pattern = likePattern(condition.pattern);
      return { text: (value) => pattern(value), number: null, boolean: null };
    }
  }
}

function compare<T>(comparison: Comparison, wanted: T): (value: T) => boolean {
  switch (comparison) {
    case '=':
      return (value) => value === wanted;
    case '<>':
      return (value) => value !== wanted;
    case '<':
      return (value) => value < wanted;
    case '<=':
      return (value) => value <= wanted;
    case '>':
      return (value) => value > wanted;
    case '>=':
      return (value) => value >= wanted;
  }
}

/** Values of another type than the literal are never equal to it: `<>` holds, every other comparison does not. */
function compareTest(comparison: Comparison, literal: Literal): ValueTest {
  const unlike = comparison === '<>' ? () => true : null;
  const test: ValueTest = { text: unlike, number: unlike, boolean: unlike };
  if (literal.type === 'text') test.text = compare(comparison, literal.value);
  else if (literal.type === 'number') test.number = compare(comparison, literal.value);
  else if (literal.type === 'boolean') test.boolean = compare(comparison, literal.value);
  else {
    const compareTime = compare(comparison, literal.value);
    test.text = (value) => {
      const time = parseDate(value);
      if (Number.isNaN(time)) return comparison === '<>';
      // A date alone stands for the whole day.
      return compareTime(literal.day ? Math.floor(time / 86_400_000) * 86_400_000 : time);
    };
  }
  return test;
}

function both(a: ValueTest, b: ValueTest): ValueTest {
  const join = <T>(x: ((value: T) => boolean) | null, y: ((value: T) => boolean) | null) =>
    x && y ? (value: T) => x(value) && y(value) : null;
  return { text: join(a.text, b.text), number: join(a.number, b.number), boolean: join(a.boolean, b.boolean) };
}

function either(a: ValueTest, b: ValueTest): ValueTest {
  const join = <T>(x: ((value: T) => boolean) | null, y: ((value: T) => boolean) | null) =>
    x && y ? (value: T) => x(value) || y(value) : (x ?? y);
  return { text: join(a.text, b.text), number: join(a.number, b.number), boolean: join(a.boolean, b.boolean) };
}

/** `%` is any letters, `_` is one; a backslash before either means itself. Matched without backtracking. */
function likePattern(pattern: string): (value: string) => boolean {
  const parts: (string | 'any' | 'one')[] = [];
  const isWild: boolean[] = [];
  const letters = [...pattern];
  for (let i = 0; i < letters.length; i++) {
    const escaped = letters[i] === '\\' && i + 1 < letters.length;
    if (escaped) i++;
    const wild = !escaped && (letters[i] === '%' || letters[i] === '_');
    parts.push(letters[i]!);
    isWild.push(wild);
  }
  return (value) => {
    const text = [...value];
    // Greedy with one point to come back to: the last % seen.
    let [t, p, star, resume] = [0, 0, -1, 0];
    while (t < text.length) {
      if (p < parts.length && isWild[p] && parts[p] === '%') {
        star = p++;
        resume = t;
      } else if (p < parts.length && ((isWild[p] && parts[p] === '_') || (!isWild[p] && parts[p] === text[t]))) {
        p++;
        t++;
      } else if (star !== -1) {
        p = star + 1;
        t = ++resume;
      } else return false;
    }
    while (p < parts.length && isWild[p] && parts[p] === '%') p++;
    return p === parts.length;
  };
}

function addMatches(segment: Segment, path: string, test: ValueTest, set: DocSet): void {
  const numbers = test.number === null ? null : segment.numbers(path);
  if (numbers !== null) addNumbers(numbers, segment.docs, test.number!, set);
  const values = test.text === null && test.boolean === null ? null : segment.values(path);
  if (values !== null) addValues(values, segment.docs, test, set);
}

function addNumbers(column: NumberColumn, docs: number, test: (value: number) => boolean, set: DocSet): void {
  for (let doc = 0; doc < docs; doc++) {
    eachNumber(column, doc, (number) => {
      if (test(number)) set.add(doc);
    });
  }
}

function addValues(column: ValueColumn, docs: number, { text, boolean }: ValueTest, set: DocSet): void {
  const passes = new Uint8Array(column.size);
  for (let value = 0; value < column.size; value++) {
    const type = column.types[value]!;
    const written = column.text(value);
    if ((type & LeafType.String) !== 0 && text?.(written)) passes[value] = 1;
    if ((type & LeafType.Boolean) !== 0 && boolean?.(written === 'true')) passes[value] = 1;
  }
  addFlagged(column, docs, passes, set);
}

/** Adds the documents that hold a flagged value. */
export function addFlagged(column: ValueColumn, docs: number, flags: Uint8Array, set: DocSet): void {
  const { docStarts, docValues } = column;
  if (docStarts === null) {
    for (let doc = 0; doc < docs; doc++) {
      const value = docValues[doc]!;
      if (value > 0 && flags[value - 1] === 1) set.add(doc);
    }
    return;
  }
  for (let doc = 0; doc < docs; doc++) {
    for (let at = docStarts[doc]!, end = docStarts[doc + 1]!; at < end; at++) {
      if (flags[docValues[at]!] !== 1) continue;
      set.add(doc);
      break;
    }
  }
}

const known = new WeakMap<Segment, Map<string, DocSet>>();

/** The documents that hold any scalar in a field. */
function presentIn(segment: Segment, path: string): DocSet {
  let sets = known.get(segment);
  if (sets === undefined) known.set(segment, (sets = new Map()));
  let present = sets.get(path);
  if (present === undefined) {
    present = new DocSet(segment.docs).keep();
    const numbers = segment.numbers(path);
    const values = segment.values(path);
    for (let doc = 0; doc < segment.docs; doc++) {
      const add = (): void => present!.add(doc);
      if (numbers) eachNumber(numbers, doc, add);
      if (values) eachValue(values, doc, add);
    }
    sets.set(path, present);
  }
  return present.copy();
}
