import type { ValuesFacet } from '@yucca/contract';
import fc from 'fast-check';
import { search } from '../src/index.ts';
import { generationOf, queryText, recordList, selection, tuningDocument } from './arbitraries.ts';
import { referenceSearch } from './reference/reference.ts';

const cuts = fc.array(fc.integer({ min: 1, max: 13 }), { maxLength: 3 });

test('engine and reference agree on set, order, counts and marks', () => {
  fc.assert(
    fc.property(recordList, tuningDocument, queryText, selection, cuts, (records, tuning, q, select, at) => {
      const request = { q, select, facets: ['*'], size: 200 };
      const answer = search(generationOf(records, tuning, at), tuning, request);
      const expected = referenceSearch(records, tuning, request);
      expect(answer.total).toBe(expected.total);
      expect(answer.results.map(({ id }) => id).sort()).toEqual([...expected.ids].sort());
      for (const [name, { counts, missing }] of Object.entries(expected.facets)) {
        const facet = answer.facets[name] as ValuesFacet;
        expect(
          Object.fromEntries(facet.values.filter(({ count }) => count > 0).map(({ value, count }) => [value, count])),
        ).toEqual(counts);
        expect(facet.missing).toBe(missing);
      }
      const marks = new Map(expected.results.map((result) => [result.id, result.marks]));
      for (const { id, marks: found } of answer.results) expect(found).toEqual(marks.get(id));
      // The weight of a word that stands nowhere as typed is taken from its readings; the reference does not count those.
      if (expected.results.every(({ score }) => !Number.isNaN(score))) {
        expect(answer.results.map(({ id }) => id)).toEqual(expected.ids);
      } else {
        const typos = new Map(expected.results.map((result) => [result.id, result.typos]));
        const order = answer.results.map(({ id }) => typos.get(id)!);
        expect(order).toEqual([...order].sort((a, b) => a - b));
      }
    }),
    { numRuns: 300 },
  );
});

test('pages put together are the whole list', () => {
  fc.assert(
    fc.property(recordList, tuningDocument, queryText, fc.integer({ min: 1, max: 4 }), (records, tuning, q, size) => {
      const generation = generationOf(records, tuning, [5]);
      const whole = search(generation, tuning, { q, size: 200 });
      const pages = Array.from({ length: Math.ceil(whole.total / size) }, (_, i) =>
        search(generation, tuning, { q, size, page: i + 1 }).results.map(({ id }) => id),
      );
      expect(pages.flat()).toEqual(whole.results.map(({ id }) => id));
    }),
  );
});

test('how the records are cut into segments changes nothing', () => {
  fc.assert(
    fc.property(recordList, tuningDocument, queryText, cuts, (records, tuning, q, at) => {
      const one = search(generationOf(records, tuning), tuning, { q, facets: ['*'] });
      const many = search(generationOf(records, tuning, at), tuning, { q, facets: ['*'] });
      expect({ ...many, understood: null }).toEqual({ ...one, understood: null });
    }),
  );
});

test('a record that holds every word as typed stands above all that need a typo', () => {
  fc.assert(
    fc.property(recordList, tuningDocument, queryText, (records, tuning, q) => {
      const strict = { ...tuning, typos: { ...tuning.typos, enabled: false } };
      const asTyped = search(generationOf(records, strict), strict, { q, size: 200 }).results.map(({ id }) => id);
      const all = search(generationOf(records, tuning), tuning, { q, size: 200 }).results.map(({ id }) => id);
      expect(all.slice(0, asTyped.length)).toEqual(asTyped);
    }),
  );
});
