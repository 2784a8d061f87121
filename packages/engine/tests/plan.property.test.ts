import { completeTuning, type Tuning } from '@yucca/contract';
import fc from 'fast-check';
import { covers, planFor } from '../src/segment/plan.ts';

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
