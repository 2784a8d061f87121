import { completeTuning, type RecordJson, type Tuning, type TuningDocument } from '@yucca/contract';
import fc from 'fast-check';
import { search } from '../src/index.ts';
import { covers, planFor, widened } from '../src/segment/plan.ts';
import { generationOf, runs } from './arbitraries.ts';

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
