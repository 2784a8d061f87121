import { facetValues, type FacetAnswer, type NumbersFacet, type RecordJson } from '@yucca/contract';
import fc from 'fast-check';
import { search } from '../src/index.ts';
import { condition, generationOf, queryText, recordList, runs, someSelection, tuningDocument } from './arbitraries.ts';
import type { ReferenceFacet } from './reference/facets.ts';
import { print } from './reference/filter.ts';
import { referenceSearch, type ReferenceRequest } from './reference/reference.ts';

const cuts = fc.array(fc.integer({ min: 1, max: 13 }), { maxLength: 3 });
const maybe = <T>(arbitrary: fc.Arbitrary<T>) => fc.option(arbitrary, { nil: undefined, freq: 2 });

/** Conditions name only fields that some record has: others are an error by design. */
const fieldsOf = (records: RecordJson[]): Set<string> => new Set(records.flatMap((record) => Object.keys(record)));
const names = (text: string): string[] => text.match(/\b(size|price|colour|sales|name|category)\b/g) ?? [];

function compareFacet(facet: FacetAnswer, expected: ReferenceFacet): void {
  expect(facet.missing).toBe(expected.missing);
  if (facet.kind === 'numbers') return compareNumbers(facet, expected);
  const counted = facetValues(facet).filter(({ count }) => count > 0);
  expect(Object.fromEntries(counted.map(({ value, count }) => [value, count]))).toEqual(expected.counts);
}

function compareNumbers(facet: NumbersFacet, { numbers, notNumbers }: ReferenceFacet): void {
  const all = numbers.flat();
  expect(facet.notNumbers).toBe(notNumbers);
  expect([facet.min, facet.max]).toEqual(all.length === 0 ? [null, null] : [Math.min(...all), Math.max(...all)]);
  const inside = (number: number, i: number): boolean => {
    const { from, to } = facet.buckets[i]!;
    return number >= from && (number < to || (number === to && i === facet.buckets.length - 1));
  };
  facet.buckets.forEach(({ count }, i) => {
    expect(count).toBe(numbers.filter((own) => own.some((number) => inside(number, i))).length);
  });
  const outside = (number: number): boolean => !facet.buckets.some((_, i) => inside(number, i));
  expect(facet.other).toBe(numbers.filter((own) => own.some(outside)).length);
}

test('engine and reference agree on set, order, counts and marks', () => {
  fc.assert(
    fc.property(
      recordList,
      tuningDocument,
      queryText,
      someSelection,
      cuts,
      maybe(condition),
      fc.constantFrom(undefined, undefined, 'dear', 'named'),
      (records, tuning, q, select, at, filter, sort) => {
        const known = fieldsOf(records);
        fc.pre(filter === undefined || names(print(filter)).every((name) => known.has(name)));
        const shared = { q, select, facets: ['*'], size: 200, ...(sort === undefined ? {} : { sort }) };
        const request = { ...shared, ...(filter === undefined ? {} : { filter: print(filter) }) };
        const answer = search(generationOf(records, tuning, at), tuning, request);
        const expected = referenceSearch(records, tuning, { ...shared, condition: filter });
        expect(answer.total).toBe(expected.total);
        expect(answer.results.map(({ id }) => id).sort()).toEqual(expected.results.map(({ id }) => id).sort());
        for (const [name, facet] of Object.entries(expected.facets)) compareFacet(answer.facets[name]!, facet);
        const marks = new Map(expected.results.map((result) => [result.id, result.marks]));
        for (const { id, marks: found } of answer.results) expect({ id, found }).toEqual({ id, found: marks.get(id) });
        expect(answer.results.map(({ id }) => id)).toEqual(expected.results.map(({ id }) => id));
        expect(answer.understood.dropped.length).toBe(expected.dropped.length);
      },
    ),
    runs(100),
  );
});

test('what explains a result adds up to it, and is what the reference says', () => {
  fc.assert(
    fc.property(recordList, tuningDocument, queryText, cuts, (records, tuning, q, at) => {
      const answer = search(generationOf(records, tuning, at), tuning, { q, size: 200, explain: true });
      const expected = referenceSearch(records, tuning, { q });
      answer.results.forEach(({ id, why }, i) => {
        const { words, typos, score, signals } = expected.results[i]!;
        expect({ id, ...why }).toMatchObject({ id: expected.results[i]!.id, words, typos, score, signals });
        const sum = why!.parts.reduce((total, { points }) => total + points, 0);
        expect(sum).toBeCloseTo(why!.text, 6);
        expect(why!.parts).toHaveLength(words);
      });
    }),
    runs(50),
  );
});

test('placements lift, sink, hide and pin as the reference does', () => {
  const key = fc.constantFrom('r0', 'r1', 'r2', 'r9', 'absent');
  const arbitrary = fc.record({
    lift: maybe(fc.constant({ op: 'like' as const, field: 'name', pattern: '%o%' })),
    sink: maybe(fc.constant({ op: 'like' as const, field: 'name', pattern: '%a%' })),
    hide: fc.uniqueArray(key, { maxLength: 2 }),
    pins: fc.uniqueArray(fc.record({ id: key, at: fc.integer({ min: 1, max: 6 }) }), {
      maxLength: 2,
      selector: ({ id }) => id,
    }),
  });
  fc.assert(
    fc.property(recordList, tuningDocument, queryText, cuts, arbitrary, (records, tuning, q, at, placed) => {
      fc.pre(fieldsOf(records).has('name'));
      const request: ReferenceRequest = {
        q,
        ...placed,
        pins: placed.pins.filter(({ id }) => !placed.hide.includes(id) && isAllowed(records, id)),
      };
      const placement = {
        name: 'here',
        when: { is: 'exact' as const, select: {}, tags: [], from: null, to: null },
        pin: placed.pins.filter(({ id }) => isAllowed(records, id)),
        hide: placed.hide,
        lift: placed.lift ? [print(placed.lift)] : [],
        sink: placed.sink ? [print(placed.sink)] : [],
        redirect: null,
        notice: null,
        replaceQuery: null,
      };
      fc.pre(!q.includes('-'));
      const answer = search(
        generationOf(records, tuning, at),
        { ...tuning, placements: [placement] },
        { q, size: 200 },
      );
      const expected = referenceSearch(records, tuning, request);
      expect(answer.results.map(({ id }) => id)).toEqual(expected.results.map(({ id }) => id));
      expect(answer.total).toBe(expected.total);
    }),
    runs(100),
  );
});

const isAllowed = (records: RecordJson[], key: string): boolean => records.some(({ id }) => id === key);

test('choices, conditions, pins, lifts, groups, sorts and pages together are what the reference says', () => {
  const key = fc.constantFrom('r0', 'r1', 'r2', 'r3', 'absent');
  const all = fc.record({
    q: fc.oneof(fc.constant(''), queryText),
    select: someSelection,
    filter: maybe(condition),
    sort: fc.constantFrom(undefined, undefined, undefined, 'dear', 'named'),
    group: fc.constantFrom(null, { field: 'size', keep: 1 }, { field: 'colour', keep: 2 }),
    lift: maybe(fc.constant({ op: 'like' as const, field: 'name', pattern: '%o%' })),
    sink: maybe(fc.constant({ op: 'like' as const, field: 'colour', pattern: '%e%' })),
    hide: fc.uniqueArray(key, { maxLength: 1 }),
    pins: fc.uniqueArray(fc.record({ id: key, at: fc.integer({ min: 1, max: 6 }) }), {
      maxLength: 3,
      selector: ({ id }) => id,
    }),
    size: fc.integer({ min: 1, max: 4 }),
  });
  fc.assert(
    fc.property(recordList, tuningDocument, cuts, all, (records, plain, at, drawn) => {
      const { q, select, filter, sort, group, lift, sink, hide, pins, size } = drawn;
      const known = fieldsOf(records);
      const needed = [filter, lift, sink].flatMap((one) => (one === undefined ? [] : names(print(one))));
      fc.pre(needed.every((name) => known.has(name)) && !q.includes('-'));
      const placement = {
        name: 'here',
        when: { is: 'exact' as const, select: {}, tags: [], from: null, to: null },
        pin: pins,
        hide,
        lift: lift ? [print(lift)] : [],
        sink: sink ? [print(sink)] : [],
        redirect: null,
        notice: null,
        replaceQuery: null,
      };
      const tuning = { ...plain, group, placements: [placement] };
      const generation = generationOf(records, tuning, at);
      const shared = { q, select, facets: ['*'], ...(sort === undefined ? {} : { sort }) };
      const request = { ...shared, ...(filter === undefined ? {} : { filter: print(filter) }) };
      const expected = referenceSearch(records, tuning, { ...shared, condition: filter, lift, sink, hide, pins });
      const ids = expected.results.map(({ id }) => id);
      const whole = search(generation, tuning, { ...request, size: 200 });
      expect([whole.total, whole.results.map(({ id }) => id)]).toEqual([ids.length, ids]);
      for (const [name, facet] of Object.entries(expected.facets)) compareFacet(whole.facets[name]!, facet);
      const pages = Array.from({ length: Math.ceil(ids.length / size) }, (_, i) =>
        search(generation, tuning, { ...request, size, page: i + 1 }),
      );
      expect(pages.flatMap(({ results }) => results.map(({ id }) => id))).toEqual(ids);
      for (const page of pages) expect([page.total, page.pages]).toEqual([ids.length, pages.length]);
    }),
    runs(150),
  );
});

test('pages put together are the whole list, whatever sorts or groups it', () => {
  fc.assert(
    fc.property(
      recordList,
      tuningDocument,
      queryText,
      fc.integer({ min: 1, max: 4 }),
      fc.constantFrom(undefined, 'dear', 'named'),
      fc.constantFrom(null, { field: 'size', keep: 1 }, { field: 'colour', keep: 2 }),
      (records, plain, q, size, sort, group) => {
        const tuning = { ...plain, group };
        const generation = generationOf(records, tuning, [5]);
        const request = { q, ...(sort === undefined ? {} : { sort }) };
        const whole = search(generation, tuning, { ...request, size: 200 });
        const pages = Array.from({ length: Math.ceil(whole.total / size) }, (_, i) =>
          search(generation, tuning, { ...request, size, page: i + 1 }).results.map(({ id }) => id),
        );
        expect(pages.flat()).toEqual(whole.results.map(({ id }) => id));
      },
    ),
    runs(33),
  );
});

test('a group shows its best records and says how many more there are', () => {
  fc.assert(
    fc.property(
      recordList,
      tuningDocument,
      queryText,
      fc.integer({ min: 1, max: 2 }),
      cuts,
      (records, tuning, q, keep, at) => {
        const generation = generationOf(records, { ...tuning, group: { field: 'size', keep } }, at);
        const all = search(generation, tuning, { q, size: 200 }).results.map(({ id }) => id);
        const grouped = search(generation, { ...tuning, group: { field: 'size', keep } }, { q, size: 200 });
        const family = (id: string): string => {
          const { size } = records[Number(id.slice(1))]!;
          return size === undefined ? id : String(size);
        };
        const seen = new Map<string, number>();
        const expected = all.filter((id) => {
          seen.set(family(id), (seen.get(family(id)) ?? 0) + 1);
          return seen.get(family(id))! <= keep;
        });
        expect(grouped.results.map(({ id }) => id)).toEqual(expected);
        expect(grouped.total).toBe(expected.length);
        for (const { id, others } of grouped.results) {
          if (others !== undefined) expect(others).toBe(seen.get(family(id))! - keep);
        }
      },
    ),
    runs(33),
  );
});

test('how the records are cut into segments changes nothing', () => {
  fc.assert(
    fc.property(recordList, tuningDocument, queryText, cuts, (records, tuning, q, at) => {
      const request = { q, facets: ['*'], explain: true };
      const one = search(generationOf(records, tuning), tuning, request);
      const many = search(generationOf(records, tuning, at), tuning, request);
      expect({ ...many, understood: null }).toEqual({ ...one, understood: null });
    }),
    runs(33),
  );
});

test('a record that holds every word as typed stands above all that need a typo', () => {
  fc.assert(
    fc.property(recordList, tuningDocument, queryText, (records, plain, q) => {
      const tuning = { ...plain, words: { ...plain.words, require: 'all' as const }, stopWords: [] };
      const strict = { ...tuning, typos: { ...tuning.typos, enabled: false } };
      const asTyped = search(generationOf(records, strict), strict, { q, size: 200 }).results.map(({ id }) => id);
      const all = search(generationOf(records, tuning), tuning, { q, size: 200 }).results.map(({ id }) => id);
      expect([...all.slice(0, asTyped.length)].sort()).toEqual([...asTyped].sort());
    }),
    runs(33),
  );
});
