import { completeTuning, leavesAt, LIMITS, type RecordJson } from '@yucca/contract';
import fc from 'fast-check';
import { addInRanges, Ranges } from '../src/filter/column-scan.ts';
import { Work } from '../src/filter/cost.ts';
import { evaluate } from '../src/filter/evaluate.ts';
import { filterSet } from '../src/filter/filter.ts';
import { likePattern } from '../src/filter/like.ts';
import { parseFilter } from '../src/filter/parse.ts';
import { simplify, type Decision } from '../src/filter/simplify.ts';
import { search, SearchRequestError } from '../src/index.ts';
import { MemberReader } from '../src/record/member-reader.ts';
import { DocSet } from '../src/sets/doc-set.ts';
import { NO_INT } from '../src/columns/column.ts';
import { findTexts } from '../src/columns/text-finder.ts';
import { textSections } from '../src/columns/column-builder.ts';
import { generationOf, runs } from './arbitraries.ts';
import { decide, print, type ReferenceCondition } from './reference/filter.ts';

const letters = fc.string({ unit: fc.constantFrom('a', 'b', 'ä', '😀', '%', '_', '\\'), maxLength: 8 });

test('LIKE finds what a regular expression finds', () => {
  fc.assert(
    fc.property(letters, letters, (pattern, value) => {
      let source = '';
      const signs = [...pattern];
      for (let i = 0; i < signs.length; i++) {
        const escaped = signs[i] === '\\' && i + 1 < signs.length;
        if (escaped) i++;
        if (!escaped && signs[i] === '%') source += '[^]*';
        else if (!escaped && signs[i] === '_') source += '[^]';
        else source += signs[i]!.replace(/[\\^$.*+?()[\]{}|]/g, '\\$&');
      }
      expect(likePattern(pattern)(value)).toBe(new RegExp(`^${source}$`, 'u').test(value));
    }),
    runs(2_000),
  );
});

test('ranges hold the numbers that lie in one of them, few ranges or many, close together or far apart', () => {
  const number = fc.oneof(
    fc.integer({ min: -20, max: 20 }),
    fc.double({ noNaN: true }),
    fc.constantFrom(Infinity, -Infinity, 0, -0, Number.MAX_VALUE, 1e-300, 7_000_000),
  );
  fc.assert(
    fc.property(
      fc.array(number, { minLength: 1, maxLength: 60 }),
      fc.array(number),
      fc.boolean(),
      (ends, asked, points) => {
        const sorted = [...new Set(ends)].sort((a, b) => a - b);
        const ranges = points
          ? sorted.map((at) => ({ from: at, to: at }))
          : sorted.flatMap((from, i) => (i % 2 === 0 ? [{ from, to: sorted[i + 1] ?? from }] : []));
        const held = new Ranges(ranges);
        for (const one of [...asked, ...ends]) {
          const inside = ranges.some(({ from, to }) => one >= from && one <= to);
          expect([one, held.has(one)]).toEqual([one, inside ? 1 : 0]);
          if (inside && held.single === null) expect([one, held.mayHold(one)]).toEqual([one, true]);
        }
        expect(held.has(Number.NaN)).toBe(0);
        const docs = asked.length;
        const set = new DocSet(docs);
        addInRanges({ docStarts: null, numbers: Float64Array.from(asked), others: null }, docs, held, set);
        expect([...set.list()]).toEqual(
          asked.flatMap((one, doc) => (ranges.some(({ from, to }) => one >= from && one <= to) ? [doc] : [])),
        );
      },
    ),
    runs(50),
  );
});

test('whole numbers are in a range or not whether a table says so or the ends of the ranges', () => {
  const end = fc.oneof(
    fc.integer({ min: -30, max: 30 }),
    fc.double({ min: -30, max: 30, noNaN: true }),
    fc.constantFrom(-Infinity, Infinity, 1e9, -70_000),
  );
  const number = fc.oneof(
    fc.integer({ min: -40, max: 40 }),
    fc.constantFrom(NO_INT, NO_INT + 1, 2 ** 31 - 1, 1_000_000_000, -70_000),
  );
  fc.assert(
    fc.property(fc.uniqueArray(end, { minLength: 4, maxLength: 20 }), fc.array(number), (ends, numbers) => {
      const sorted = [...ends].sort((a, b) => a - b);
      const ranges = sorted.flatMap((from, i) => (i % 2 === 0 ? [{ from, to: sorted[i + 1] ?? from }] : []));
      const set = new DocSet(numbers.length);
      const column = { docStarts: null, numbers: Int32Array.from(numbers), others: null };
      addInRanges(column, numbers.length, new Ranges(ranges), set);
      expect([...set.list()]).toEqual(
        numbers.flatMap((n, doc) => (n !== NO_INT && ranges.some(({ from, to }) => n >= from && n <= to) ? [doc] : [])),
      );
    }),
    runs(50),
  );
});

test('a document without a whole number is in no range', () => {
  const numbers = Int32Array.from({ length: 70 }, (_, i) => (i % 3 === 0 ? NO_INT : i - 30));
  for (const ranges of [
    [{ from: -Infinity, to: Infinity }],
    [
      { from: -Infinity, to: -20 },
      { from: 0, to: Infinity },
    ],
  ]) {
    const set = new DocSet(70);
    addInRanges({ docStarts: null, numbers, others: null }, 70, new Ranges(ranges), set);
    const expected = [...numbers].flatMap((n, doc) =>
      n !== NO_INT && ranges.some(({ from, to }) => n >= from && n <= to) ? [doc] : [],
    );
    expect([...set.list()]).toEqual(expected);
  }
});

// Fields that hold one number, one text, one of either, a list of both, and texts that are kept in no column.
const value = fc.oneof(fc.integer({ min: 0, max: 6 }), fc.constantFrom('a', 'b', 'A', 'ab', '3', ''), fc.boolean());
const record = fc.record(
  {
    number: fc.integer({ min: -3, max: 6 }),
    text: fc.constantFrom('a', 'b', 'A', 'ab', ''),
    mixed: value,
    list: fc.array(value, { maxLength: 3 }),
    note: fc.oneof(value, fc.array(value, { maxLength: 2 })),
  },
  { requiredKeys: [] },
);
const field = fc.constantFrom('number', 'text', 'mixed', 'list', 'note');
const single = fc.oneof(
  fc.record({
    op: fc.constant('compare' as const),
    field,
    sign: fc.constantFrom('=' as const, '<>' as const, '<' as const, '<=' as const, '>' as const, '>=' as const),
    value,
  }),
  fc
    .tuple(fc.integer({ min: -3, max: 6 }), fc.nat(4), field)
    .map(([low, more, name]) => ({ op: 'between' as const, field: name, low, high: low + more })),
  fc.record({
    op: fc.constant('in' as const),
    field,
    values: fc.array(fc.oneof(fc.integer({ min: 0, max: 6 }), fc.constantFrom('a', 'A', '3')), { minLength: 1 }),
  }),
  fc.record({ op: fc.constant('like' as const), field, pattern: fc.constantFrom('a%', '%b', '_', '%', '') }),
  fc.record({ op: fc.constant('null' as const), field }),
);
const condition: fc.Arbitrary<ReferenceCondition> = fc.letrec<{ condition: ReferenceCondition }>((tie) => ({
  condition: fc.oneof(
    { maxDepth: 4 },
    single,
    fc.record({ op: fc.constant('not' as const), part: tie('condition') }),
    fc.record({
      op: fc.constantFrom('and' as const, 'or' as const),
      parts: fc.array(tie('condition'), { minLength: 2, maxLength: 5 }),
    }),
  ),
})).condition;

// A thousand texts of their own keep `note` out of the columns.
const fillers = Array.from({ length: 1_100 }, (_, i): RecordJson => ({ id: `f${i}`, note: `text ${i}`, number: 99 }));
const everything: RecordJson = { number: 0, text: 'x', mixed: 'x', list: ['x'], note: 'x' };

test('a condition is true where deciding it record by record says so, joined comparisons or not, column or none', () => {
  const tuning = completeTuning({ search: [{ field: 'id' }] });
  fc.assert(
    fc.property(
      fc.array(record, { maxLength: 40 }),
      fc.array(condition, { minLength: 1, maxLength: 8 }),
      fc.boolean(),
      (list, conditions, large) => {
        const records = [everything, ...list, ...(large ? fillers : [])].map((one, i): RecordJson => ({
          ...one,
          id: `r${i}`,
        }));
        const { segment } = generationOf(records, tuning).segments[0]!;
        expect(segment.keepsValues('note')).toBe(!large);
        for (const one of conditions) {
          const found = [...evaluate(segment, parseFilter(print(one))).list()];
          expect([print(one), found]).toEqual([
            print(one),
            records.flatMap((own, doc) => (decide(own, one) === true ? [doc] : [])),
          ]);
        }
      },
    ),
    runs(60),
  );
});

const tests = (decision: Decision): string[] =>
  decision.op === 'and' || decision.op === 'or'
    ? decision.parts.flatMap(tests)
    : decision.op === 'not'
      ? tests(decision.part)
      : decision.op === 'test'
        ? [decision.field.path]
        : [];
const fieldsOf = (source: string, isSingle = true): string[] => tests(simplify(parseFilter(source), () => isSingle));

test('comparisons of one field are one, under AND only where no record holds two values', () => {
  expect(fieldsOf('a = 1 OR b = 1 OR a = 2 OR (a = 3 OR b = 4)')).toEqual(['a', 'b']);
  expect(fieldsOf('a > 1 AND a < 5 AND a <> 3')).toEqual(['a']);
  expect(fieldsOf('a > 1 AND a < 5 AND a > 1', false)).toEqual(['a', 'a']);
  expect(fieldsOf('NOT a = 1 AND NOT a = 2 AND NOT (a = 3 OR a = 4)', false)).toEqual(['a']);
  expect(fieldsOf(`${'NOT '.repeat(6)}a = 1`)).toEqual(['a']);
});

test('one field is read out of records as parsing them would', () => {
  const name = fc.constantFrom('a', 'b', 'a.b', '', '"', '\\', 'é', '__proto__', 'a.');
  const { json } = fc.letrec<{ json: unknown }>((tie) => ({
    json: fc.oneof(
      { maxDepth: 4 },
      fc.oneof(
        fc.string({ unit: 'grapheme' }),
        fc.double({ noNaN: true }),
        fc.boolean(),
        fc.constantFrom(null, '"', '\\', '},{', '\ud800'),
      ),
      fc.array(tie('json'), { maxLength: 3 }),
      fc.array(fc.tuple(name, tie('json')), { maxLength: 4 }).map((list) => Object.fromEntries(list)),
    ),
  }));
  const object = fc.array(fc.tuple(name, json), { maxLength: 5 }).map((list) => Object.fromEntries(list) as RecordJson);
  const path = fc.oneof(
    name,
    fc.array(name, { minLength: 2, maxLength: 3 }).map((list) => list.join('.')),
  );
  fc.assert(
    fc.property(object, object, path, (first, second, asked) => {
      const texts = [first, second].map((one) => new TextEncoder().encode(JSON.stringify(one)));
      const bytes = new Uint8Array([...texts[0]!, ...texts[1]!]);
      const reader = new MemberReader(bytes, asked, (from, to) => new TextDecoder().decode(bytes.subarray(from, to)));
      [first, second].forEach((one, i) => {
        const read: unknown[] = [];
        const from = i === 0 ? 0 : texts[0]!.length;
        reader.read(from, from + texts[i]!.length, (leaf) => read.push(leaf));
        const expected: unknown[] = [];
        leavesAt(JSON.parse(JSON.stringify(one)) as RecordJson, asked, (leaf) => expected.push(leaf));
        expect(read.map(String).sort()).toEqual(expected.map(String).sort());
      });
    }),
    runs(1_000),
  );
});

test('texts are found among many by their bytes', () => {
  const some = fc.oneof(fc.constantFrom('a', 'b', 'ab', '', 'é', '😀'), fc.string({ unit: 'grapheme', maxLength: 5 }));
  fc.assert(
    fc.property(fc.uniqueArray(some, { maxLength: 40 }), fc.array(some, { maxLength: 6 }), (texts, wanted) => {
      const [starts, bytes] = textSections(0, 1, 0, texts);
      const found = findTexts(starts!.data as Uint32Array, bytes!.data as Uint8Array, new Set(wanted));
      expect(found).toEqual(texts.flatMap((text, i) => (wanted.includes(text) ? [i] : [])));
    }),
    runs(500),
  );
});

const { segment } = generationOf(
  Array.from({ length: 3_000 }, (_, i) => ({ id: `r${i}`, kind: `k${i % 9}`, size: i % 50, note: `text ${i}` })),
  completeTuning({ search: [{ field: 'kind' }] }),
).segments[0]!;
const decided = (source: string, ns: number): number => evaluate(segment, parseFilter(source), new Work(ns)).count();

test('a condition that takes more work than there is left is refused before any of it is done, with its place', () => {
  // Some 15 microseconds to go through 3,000 values, and 20 to compare the texts of 9.
  expect(decided("kind = 'k1'", 20_000)).toBe(334);
  expect(() => decided("kind = 'k1' OR size = 3", 20_000)).toThrow(/compares too much .* at 1:16$/);
  expect(decided("kind = 'k1' OR size = 3", 50_000)).toBeGreaterThan(334);
  // However often it is said, the same is decided once, and what is joined is one.
  expect(decided(Array.from({ length: 300 }, (_, i) => `size=${i % 60}`).join(' OR '), 60_000)).toBe(3_000);
  expect(decided(Array.from({ length: 80 }, () => "(kind = 'k1' AND size = 3)").join(' OR '), 60_000)).toBeGreaterThan(
    0,
  );
  expect(() =>
    decided(Array.from({ length: 50 }, (_, i) => `(kind = 'k${i}' AND size = ${i})`).join(' OR '), 60_000),
  ).toThrow('compares too much');
});

test('texts that stand in no column are read when the records are few, else the answer says what to do', () => {
  expect(decided("note LIKE 'text 1%'", 30_000_000)).toBe(1_111);
  expect(() => decided("size = 1 AND note > 'text 7'", 1_000_000)).toThrow(
    /own in “note”, and so many records .* at 1:14$/,
  );
});

test('the work of one search is counted over all its segments, and never that of a forced filter', () => {
  const records = Array.from({ length: 2_400 }, (_, i): RecordJson => ({
    id: `r${i}`,
    note: `${'long '.repeat(800)}${i}`,
  }));
  const tuning = completeTuning({ search: [{ field: 'id' }] });
  const generation = generationOf(records, tuning, [1_200]);
  const filter = "note LIKE '%7'";
  expect(() => search(generation, tuning, { filter })).toThrow(SearchRequestError);
  expect(search(generation, tuning, {}, { forcedFilter: filter }).total).toBe(240);
  // Now it is known, and costs nothing.
  expect(search(generation, tuning, { filter }).total).toBe(240);
});

test('ever new conditions of searches leave what a key always asks for where it is', () => {
  const setOf = (source: string, work?: Work): DocSet => filterSet(segment, source, parseFilter(source), work);
  const own = setOf("kind = 'k2'");
  const first = setOf('size = 0', new Work());
  for (let i = 1; i <= 30; i++) setOf(`size = ${i}`, new Work());
  expect(setOf("kind = 'k2'", new Work())).toBe(own);
  expect(setOf('size = 30', new Work())).toBe(setOf('size = 30'));
  expect(setOf('size = 0', new Work())).not.toBe(first);
});

test('each result says which of the conditions it meets; whatever is found, in whichever segment it lies', () => {
  const tuning = completeTuning({ search: [{ field: 'id' }] });
  fc.assert(
    fc.property(
      fc.array(record, { maxLength: 30 }),
      fc.array(record, { maxLength: 10 }),
      fc.array(condition, { minLength: 1, maxLength: LIMITS.conditionsPerQuery }),
      (first, second, conditions) => {
        const records = [everything, ...first, ...second].map((one, i): RecordJson => ({ ...one, id: `r${i}` }));
        const generation = generationOf(records, tuning, [first.length + 1]);
        const asked = { size: 50, conditions: conditions.map(print) };
        const { results, total } = search(generation, tuning, asked);
        expect(total).toBe(records.length);
        for (const { id, meets = [] } of results) {
          const own = records.find((one) => one.id === id)!;
          expect([id, meets]).toEqual([id, conditions.flatMap((one, i) => (decide(own, one) === true ? [i] : []))]);
        }
      },
    ),
    runs(15),
  );
});

test('a condition that cannot be read is refused by its place; a field that nobody has is met by none', () => {
  const generation = generationOf([{ id: 'a', cost: 3, margin: 2 }], completeTuning({}));
  const ask = (conditions: string[]) =>
    search(generation, completeTuning({ hide: ['margin'] }), { conditions }).results.map(({ meets }) => meets);
  expect(ask(['cost > 2', 'cost > 3', 'cost < 4'])).toEqual([[0, 2]]);
  expect(ask(['gone > 2'])).toEqual([undefined]);
  expect(() => ask(['cost > 2', 'cost >'])).toThrow(expect.objectContaining({ pointer: '/conditions/1' }));
});

test('a condition that would take too much work is held against what is shown alone', () => {
  // Texts of a field that is no column have to be read out of their records.
  const records = Array.from({ length: 30_000 }, (_, i): RecordJson => ({
    id: `r${i}`,
    note: `text ${i} ${'x'.repeat(400)}`,
  }));
  const generation = generationOf(records, completeTuning({ search: [{ field: 'id' }] }));
  const condition = `note LIKE '%text 7 %'`;
  expect(() => search(generation, completeTuning({}), { filter: condition })).toThrow(SearchRequestError);
  const { results } = search(generation, completeTuning({}), { q: 'r7', conditions: [condition], size: 3 });
  expect(results.map(({ id, meets }) => [id, meets])).toContainEqual(['r7', [0]]);
  expect(results.filter(({ meets }) => meets)).toHaveLength(1);
});
