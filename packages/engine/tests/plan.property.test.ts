import { completeTuning, type RecordJson, type Tuning, type TuningDocument } from '@yucca/contract';
import fc from 'fast-check';
import { buildColumnSegment, search, Segment, type Generation, type IndexPlan } from '../src/index.ts';
import { covers, missingColumns, planFor, widened, withColumns } from '../src/segment/plan.ts';
import { buffersOf, generationOf, opened, runs } from './arbitraries.ts';

const field = fc.constantFrom('name', 'care', 'colour', 'supplier.id');
const tuning: fc.Arbitrary<Tuning> = fc
  .record({ search: fc.uniqueArray(field), facets: fc.uniqueArray(field) })
  .map(({ search, facets }) =>
    completeTuning({
      search: search.map((name) => ({ field: name })),
      facets: facets.map((name) => ({ name, field: name })),
    }),
  );

test('a plan covers each tuning it was made for, and every plan for fewer of them', () => {
  fc.assert(
    fc.property(fc.array(tuning, { minLength: 1, maxLength: 4 }), (tunings) => {
      const plan = planFor(tunings);
      for (const one of tunings) expect(covers(plan, planFor([one]))).toBe(true);
      expect(covers(plan, plan)).toBe(true);
    }),
  );
});

test('a field or facet more, or the wish for all strings, needs a rebuild', () => {
  const plan = planFor([completeTuning({ search: [{ field: 'name' }] })]);
  expect(covers(plan, { ...plan, searchFields: ['name', 'care'] })).toBe(false);
  expect(covers(plan, { ...plan, columns: ['colour'] })).toBe(false);
  expect(covers(plan, { ...plan, allStrings: true })).toBe(false);
  expect(planFor([completeTuning({})]).allStrings).toBe(true);
});

describe('columns that stand there unasked', () => {
  const value = fc.constantFrom<unknown>('red', 'blue', '', '2026-01-02', '2025-12-31', true, false, 3, -1.5, 0, null);
  const texts = fc.constantFrom<unknown>('red', 'blue', '', '2026-01-02', 'b > c', ['red', 'b > c']);
  const numbers = fc.constantFrom<unknown>(3, -1.5, 0, [1, 2], 40);
  const record = fc.record(
    { text: texts, number: numbers, mixed: fc.oneof(value, fc.array(value, { maxLength: 3 })), rare: texts },
    { requiredKeys: [] },
  );
  const some = fc.constantFrom('text', 'number', 'mixed', 'rare', 'nowhere');
  const wish = fc.record({
    facets: fc.uniqueArray(
      fc.record({
        field: some,
        kind: fc.constantFrom('values' as const, 'numbers' as const, 'dates' as const, 'tree' as const),
      }),
      {
        selector: ({ field: name, kind }) => `${name} ${kind}`,
        maxLength: 3,
      },
    ),
    sorts: fc.uniqueArray(some, { maxLength: 2 }),
    signals: fc.uniqueArray(some, { maxLength: 2 }),
    shape: fc.constantFrom('linear' as const, 'log' as const, 'recency' as const),
    group: fc.option(some),
  });

  test('a plan is widened by nothing that its segments answer otherwise than those of an index made for it', () => {
    let widenedOnes = 0;
    fc.assert(
      fc.property(
        fc.array(record, { minLength: 1, maxLength: 25 }),
        fc.array(fc.nat(25), { maxLength: 2 }),
        wish,
        (list, cuts, { facets, sorts, signals, shape, group }) => {
          const wanted = completeTuning({
            facets: facets.map(({ field: name, kind }) => ({ name: `${name} ${kind}`, field: name, kind })),
            sorts: sorts.map((name) => ({ name: `by-${name}`, by: [{ field: name, order: 'asc' as const }] })),
            signals: signals.map((name) => ({ field: name, weight: 1, shape })),
            group: group === null ? null : { field: group, keep: 1 },
          });
          const records = list.map((one, i) => ({ id: `r${i}`, ...one }) as RecordJson);
          const unasked = generationOf(records, completeTuning({}), cuts);
          const asked = generationOf(records, wanted, cuts);
          const want = planFor([wanted]);
          const plan = widened(
            planFor([completeTuning({})]),
            want,
            unasked.segments.map(({ segment }) => segment),
          );
          if (!covers(plan, want)) return;
          widenedOnes++;
          for (const sort of ['relevance', ...wanted.sorts.map(({ name }) => name)])
            expect(search(unasked, wanted, { sort, facets: ['*'], size: 30 })).toEqual(
              search(asked, wanted, { sort, facets: ['*'], size: 30 }),
            );
        },
      ),
      runs(400),
    );
    expect(widenedOnes).toBeGreaterThan(20);
  });

  test('texts of few values, numbers for a sort, and what stands nowhere need no new index; numbers as values do', () => {
    const records = Array.from({ length: 30 }, (_, i): RecordJson => ({ id: `r${i}`, colour: `c${i % 3}`, price: i }));
    const { segments } = generationOf(records, completeTuning({}), []);
    const have = planFor([completeTuning({})]);
    const isHeld = (document: TuningDocument): boolean => {
      const want = planFor([completeTuning(document)]);
      return covers(
        widened(
          have,
          want,
          segments.map(({ segment }) => segment),
        ),
        want,
      );
    };
    expect(isHeld({ facets: [{ name: 'colour', field: 'colour' }] })).toBe(true);
    expect(isHeld({ sorts: [{ name: 'price', by: [{ field: 'price', order: 'asc' }] }] })).toBe(true);
    expect(isHeld({ facets: [{ name: 'price', field: 'price', kind: 'numbers' }] })).toBe(true);
    expect(isHeld({ facets: [{ name: 'coming', field: 'coming' }] })).toBe(true);
    expect(isHeld({ facets: [{ name: 'price', field: 'price' }] })).toBe(false);
    expect(isHeld({ group: { field: 'price', keep: 1 } })).toBe(false);
    expect(isHeld({ search: [{ field: 'colour' }] })).toBe(false);
  });
});

describe('columns that are added', () => {
  const value = fc.constantFrom<unknown>('red', 'Blue', 'blue', '', '2026-01-02', true, false, 3, -1.5, 0, null);
  const several = fc.oneof(value, fc.array(value, { maxLength: 3 }));
  const supplier = fc.record({ id: value, name: value }, { requiredKeys: [] });
  const place = fc.constantFrom<unknown>(
    { lat: 48.1, lng: 9.2 },
    { lat: 48.2, lng: 9.1 },
    { lat: -33, lng: 151 },
    'nowhere',
    null,
  );
  const record = fc.record(
    {
      name: fc.constantFrom('rose', 'fern'),
      mixed: several,
      other: several,
      'dotted.name': several,
      suppliers: fc.oneof(supplier, fc.array(supplier, { maxLength: 3 })),
      place,
    },
    { requiredKeys: [] },
  );
  const some = fc.constantFrom('mixed', 'other', 'dotted.name', 'suppliers.id', 'suppliers.name', 'nowhere');
  const facet = fc.oneof(
    fc.record({ field: some, kind: fc.constantFrom('values', 'numbers', 'dates', 'tree') }),
    fc.record({
      field: fc.constant('suppliers.id'),
      kind: fc.constantFrom('values', 'numbers'),
      labelField: fc.constantFrom('suppliers.name', 'name'),
    }),
  );
  const wish = fc
    .record({
      facets: fc.uniqueArray(facet, { selector: ({ field, kind }) => `${field} ${kind}`, maxLength: 3 }),
      sorts: fc.uniqueArray(some, { maxLength: 2 }),
      signals: fc.uniqueArray(some, { maxLength: 2 }),
      shape: fc.constantFrom('linear' as const, 'log' as const, 'recency' as const),
      group: fc.option(some),
      geo: fc.constantFrom(null, 'place'),
    })
    .map(({ facets, sorts, signals, shape, group, geo }) =>
      completeTuning({
        search: [{ field: 'name' }],
        facets: facets.map((one) => ({ name: `${one.field} ${one.kind}`, ...one })),
        sorts: sorts.map((name) => ({ name: `by-${name}`, by: [{ field: name, order: 'asc' as const }] })),
        signals: signals.map((name) => ({ field: name, weight: 1, shape })),
        group: group === null ? null : { field: group, keep: 1 },
        geo,
      } as TuningDocument),
    );

  /** An index to which the columns that a tuning lacks are added, as the index manager does it. */
  function added(plan: IndexPlan, generation: Generation, wanted: IndexPlan, before: ArrayBuffer[][]): IndexPlan {
    const more = missingColumns(plan, wanted)!;
    expect(more).not.toBeNull();
    generation.segments.forEach(({ segment }, i) =>
      before[i]!.push(buildColumnSegment(segment, more, (bytes) => new ArrayBuffer(bytes))),
    );
    return withColumns(plan, more);
  }

  test('an index with columns added answers as one that was made for the tuning, one wish after the other', () => {
    const filters = ["mixed = 'red'", 'mixed > 0', "other LIKE 'b%'", 'nowhere IS NULL', "suppliers.name <> 'Blue'"];
    fc.assert(
      fc.property(
        fc.array(record, { minLength: 1, maxLength: 25 }),
        fc.array(fc.nat(25), { maxLength: 2 }),
        fc.array(wish, { minLength: 1, maxLength: 3 }),
        (list, cuts, wishes) => {
          const records = list.map((one, i) => ({ id: `r${i}`, ...one }) as RecordJson);
          const bare = completeTuning({ search: [{ field: 'name' }] });
          const buffers = buffersOf(records, bare, cuts);
          const extra: ArrayBuffer[][] = buffers.map(() => []);
          let plan = planFor([bare]);
          wishes.forEach((wanted, n) => {
            // Live stays what it was before, as while a draft is on trial.
            const want = planFor(wishes.slice(0, n + 1));
            plan = added(plan, opened(buffers, extra), want, extra);
            expect(covers(plan, want)).toBe(true);
            const [grown, asked] = [
              opened(buffers, extra),
              opened(buffersOf(records, wishes.slice(0, n + 1), cuts), []),
            ];
            for (const sort of ['relevance', ...wanted.sorts.map(({ name }) => name)])
              for (const more of [{}, { q: 'rose' }, { near: { lat: 48, lng: 9, withinM: 50_000 } }]) {
                if ('near' in more && wanted.geo === null) continue;
                const request = { sort, facets: ['*'], size: 30, ...more };
                expect(search(grown, wanted, request)).toEqual(search(asked, wanted, request));
              }
            for (const filter of filters)
              expect(outcome(() => search(grown, wanted, { filter, size: 30 }))).toEqual(
                outcome(() => search(asked, wanted, { filter, size: 30 })),
              );
          });
        },
      ),
      runs(120),
    );
  });

  test('of another segment, cut or damaged, added columns are refused', () => {
    const bare = completeTuning({ search: [{ field: 'name' }] });
    const listOf = (count: number): RecordJson[] => Array.from({ length: count }, (_, i) => ({ id: `r${i}`, n: i }));
    const [own, other] = [buffersOf(listOf(5), bare, []), buffersOf(listOf(6), bare, [])];
    const more = missingColumns(planFor([bare]), planFor([{ ...bare, group: { field: 'n', keep: 1 } }]))!;
    const columns = buildColumnSegment(new Segment(own[0]!), more, (bytes) => new ArrayBuffer(bytes));
    expect(new Segment(own[0]!, { added: [columns] }).values('n')!.size).toBe(5);
    expect(() => new Segment(other[0]!, { added: [columns] })).toThrow('another segment');
    expect(() => new Segment(own[0]!, { added: [columns.slice(0, columns.byteLength - 8)] })).toThrow();
    new Uint8Array(columns)[columns.byteLength - 12]! ^= 1;
    expect(() => new Segment(own[0]!, { added: [columns] })).toThrow('checksum');
  });

  test('other words need another index, whatever columns are there', () => {
    const have = planFor([completeTuning({ search: [{ field: 'name' }] })]);
    const needs = (document: TuningDocument): unknown => missingColumns(have, planFor([completeTuning(document)]));
    expect(needs({ search: [{ field: 'name' }, { field: 'care' }] })).toBeNull();
    expect(needs({})).toBeNull();
    expect(needs({ search: [{ field: 'name' }], language: 'fr' })).toBeNull();
    expect(needs({ search: [{ field: 'name' }], html: ['name'] })).toBeNull();
    expect(needs({ search: [{ field: 'name' }], facets: [{ name: 'n', field: 'n' }] })).toMatchObject({
      columns: ['n'],
    });
  });
});

function outcome(run: () => unknown): unknown {
  try {
    return run();
  } catch (error) {
    return (error as Error).message;
  }
}
