import { DAY_MS, parseDate } from '../columns/times.ts';
import { beginningOf, likePattern } from './like.ts';
import type { Comparison, Condition, Literal } from './parse.ts';

/** Numbers from one to another, both included. */
export interface Range {
  from: number;
  to: number;
}

/** What decides on the texts of a field. */
export interface TextTest {
  passes: (value: string) => boolean;
  /** Where nothing but these can pass: they can be looked up instead of trying every text. */
  only: ReadonlySet<string> | null;
  /** Everything but this one passes. */
  allBut: string | null;
  /** Only texts that begin so can pass. */
  beginning: string;
  /** And all that do. */
  isBeginning: boolean;
  /** The same of the time that a text says (see columns/times.ts), where nothing else counts. */
  ofTime: ((time: number) => boolean) | null;
  /** How long one text takes, in nanoseconds. */
  ns: number;
}

/** What decides on single values, by their type. Null passes none. */
export interface ValueTest {
  /** Ascending and apart from each other. */
  numbers: readonly Range[];
  texts: TextTest | null;
  boolean: ((value: boolean) => boolean) | null;
}

export type Predicate = Exclude<Condition, { op: 'and' | 'or' | 'not' | 'constant' | 'isNull' }>;

const TEXT_NS = 20;
const PATTERN_NS = 60;
const DATE_NS = 400;

const ANY_TEXT: TextTest = {
  passes: () => true,
  only: null,
  allBut: null,
  beginning: '',
  isBeginning: false,
  ofTime: null,
  ns: TEXT_NS,
};

const NONE: ValueTest = { numbers: [], texts: null, boolean: null };

export function testFor(predicate: Predicate): ValueTest {
  switch (predicate.op) {
    case 'compare':
      return compareTest(predicate.comparison, predicate.value);
    case 'between':
      return allOf([compareTest('>=', predicate.low), compareTest('<=', predicate.high)]);
    case 'in':
      return anyOf(predicate.values.map((value) => compareTest('=', value)));
    case 'like':
      return {
        ...NONE,
        texts: {
          ...ANY_TEXT,
          passes: likePattern(predicate.pattern),
          ...beginningOf(predicate.pattern),
          ns: PATTERN_NS,
        },
      };
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
  const unlike: ValueTest =
    comparison === '<>'
      ? {
          numbers: [{ from: -Infinity, to: Infinity }],
          texts: ANY_TEXT,
          boolean: () => true,
        }
      : NONE;
  switch (literal.type) {
    case 'text': {
      const only = comparison === '=' ? new Set([literal.value]) : null;
      const allBut = comparison === '<>' ? literal.value : null;
      return { ...unlike, texts: { ...ANY_TEXT, passes: compare(comparison, literal.value), only, allBut } };
    }
    case 'number':
      return { ...unlike, numbers: rangesOf(comparison, literal.value) };
    case 'boolean':
      return { ...unlike, boolean: compare(comparison, literal.value) };
    case 'instant': {
      const compareTime = compare(comparison, literal.value);
      const ofTime = (time: number): boolean => {
        if (Number.isNaN(time)) return comparison === '<>';
        // A date alone stands for the whole day.
        return compareTime(literal.day ? Math.floor(time / DAY_MS) * DAY_MS : time);
      };
      return { ...unlike, texts: { ...ANY_TEXT, passes: (value) => ofTime(parseDate(value)), ofTime, ns: DATE_NS } };
    }
  }
}

function rangesOf(comparison: Comparison, value: number): Range[] {
  const ranges = {
    '=': [{ from: value, to: value }],
    '<>': [
      { from: -Infinity, to: next(value, -1) },
      { from: next(value, 1), to: Infinity },
    ],
    '<': [{ from: -Infinity, to: next(value, -1) }],
    '<=': [{ from: -Infinity, to: value }],
    '>': [{ from: next(value, 1), to: Infinity }],
    '>=': [{ from: value, to: Infinity }],
  }[comparison];
  // Nothing lies beyond the infinite: there `next` is NaN.
  return ranges.filter(({ from, to }) => from <= to);
}

const float = new Float64Array(1);
const bits = new BigInt64Array(float.buffer);

/** The number right above (1) or below (-1) another; NaN beyond the infinite (IEEE 754, nextUp and nextDown). */
function next(value: number, direction: 1 | -1): number {
  if (value === direction * Infinity) return Number.NaN;
  if (value === 0) return direction * Number.MIN_VALUE;
  float[0] = value;
  // Read as whole numbers, doubles of one sign are in the order of their size.
  bits[0]! += value > 0 === direction > 0 ? 1n : -1n;
  return float[0];
}

/** Passes what any of some tests passes. */
export function anyOf(tests: readonly ValueTest[]): ValueTest {
  if (tests.length === 1) return tests[0]!;
  const texts = tests.flatMap((test) => test.texts ?? []);
  const booleans = tests.flatMap(({ boolean }) => boolean ?? []);
  return {
    numbers: union(tests.flatMap(({ numbers }) => numbers)),
    texts: texts.length === 0 ? null : anyText(texts),
    boolean: booleans.length === 0 ? null : (value) => booleans.some((test) => test(value)),
  };
}

function anyText(tests: readonly TextTest[]): TextTest {
  const only = new Set(tests.flatMap((test) => [...(test.only ?? [])]));
  const others = tests.filter((test) => test.only === null);
  if (others.length === 0) return { ...ANY_TEXT, passes: (value) => only.has(value), only };
  return {
    ...ANY_TEXT,
    passes: (value) => only.has(value) || others.some(({ passes }) => passes(value)),
    ofTime: only.size === 0 ? timesTogether(others, 'some') : null,
    ns: TEXT_NS + nsOf(others),
  };
}

/** What any or all of some tests say of a time; null when one of them looks at more than that. */
function timesTogether(tests: readonly TextTest[], of: 'some' | 'every'): TextTest['ofTime'] {
  const each = tests.flatMap(({ ofTime }) => ofTime ?? []);
  return each.length < tests.length ? null : (time) => each[of]((test) => test(time));
}

const nsOf = (tests: readonly TextTest[]): number => tests.reduce((sum, { ns }) => sum + ns, 0);

/** Passes what each of some tests passes. */
export function allOf(tests: readonly ValueTest[]): ValueTest {
  if (tests.length === 1) return tests[0]!;
  const texts = tests.flatMap((test) => test.texts ?? []);
  const booleans = tests.flatMap(({ boolean }) => boolean ?? []);
  return {
    numbers: tests.map(({ numbers }) => numbers).reduce(intersection),
    texts: texts.length < tests.length ? null : everyText(texts),
    boolean: booleans.length < tests.length ? null : (value) => booleans.every((test) => test(value)),
  };
}

function everyText(tests: readonly TextTest[]): TextTest {
  return {
    ...ANY_TEXT,
    passes: (value) => tests.every(({ passes }) => passes(value)),
    ofTime: timesTogether(tests, 'every'),
    only: tests.find(({ only }) => only !== null)?.only ?? null,
    ns: nsOf(tests),
  };
}

function union(ranges: readonly Range[]): Range[] {
  const apart: Range[] = [];
  for (const { from, to } of [...ranges].sort((a, b) => a.from - b.from)) {
    const last = apart[apart.length - 1];
    if (last !== undefined && from <= last.to) last.to = Math.max(last.to, to);
    else apart.push({ from, to });
  }
  return apart;
}

function intersection(a: readonly Range[], b: readonly Range[]): Range[] {
  const both: Range[] = [];
  for (let i = 0, j = 0; i < a.length && j < b.length;) {
    const from = Math.max(a[i]!.from, b[j]!.from);
    const to = Math.min(a[i]!.to, b[j]!.to);
    if (from <= to) both.push({ from, to });
    if (a[i]!.to < b[j]!.to) i++;
    else j++;
  }
  return both;
}
