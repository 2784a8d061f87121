import fc from 'fast-check';
import { DocSet } from '../src/sets/doc-set.ts';
import { Results } from '../src/sets/results.ts';

const DOCS = 100;
const members = fc.uniqueArray(fc.nat(DOCS - 1));
const sorted = (list: Iterable<number>): number[] => [...list].sort((a, b) => a - b);

test('sets of documents do as sets do', () => {
  fc.assert(
    fc.property(members, members, (a, b) => {
      const [one, other] = [new Set(a), new Set(b)];
      const make = (): DocSet => DocSet.of(DOCS, a);
      const second = DocSet.of(DOCS, b);
      expect([...make().list()]).toEqual(sorted(a));
      expect(make().count()).toBe(a.length);
      expect(make().isEmpty()).toBe(a.length === 0);
      expect([...make().and(second).list()]).toEqual(sorted(a.filter((doc) => other.has(doc))));
      expect([...make().or(second).list()]).toEqual(sorted(new Set([...a, ...b])));
      expect([...make().minus(second).list()]).toEqual(sorted(a.filter((doc) => !other.has(doc))));
      expect([...make().union(second).list()]).toEqual(sorted(new Set([...a, ...b])));
      expect([...make().without(second).list()]).toEqual(sorted(a.filter((doc) => !other.has(doc))));
      // The memory of sets is used again: what another search left in it is not in a set.
      for (let i = 0; i < 3; i++) {
        DocSet.scoped(() => {
          const both = make().union(second);
          expect([...both.without(second).copy().list()]).toEqual(sorted(a.filter((doc) => !other.has(doc))));
          expect(new DocSet(DOCS).isEmpty()).toBe(true);
        });
      }
      expect(make().meets(second)).toBe(a.some((doc) => other.has(doc)));
      expect([
        ...make()
          .andAll([second, DocSet.all(DOCS)])
          .list(),
      ]).toEqual(sorted(a.filter((doc) => other.has(doc))));
      expect(Array.from({ length: DOCS }, (_, doc) => make().has(doc))).toEqual(
        Array.from({ length: DOCS }, (_, doc) => one.has(doc)),
      );
    }),
  );
});

test.each([1, 31, 32, 33, 64, 100])('all of %i documents are all, and none is left over', (docs) => {
  expect(DocSet.all(docs).count()).toBe(docs);
  expect(DocSet.all(docs).minus(DocSet.all(docs)).isEmpty()).toBe(true);
});

test('results know their size, their list and the nearest kept set around them', () => {
  fc.assert(
    fc.property(members, members, (list, around) => {
      const within = DocSet.of(DOCS, [...list, ...around]).keep();
      const size = within.count();
      for (const results of [new Results(DocSet.of(DOCS, list)), new Results(DocSet.of(DOCS, list), within)]) {
        expect(results.count).toBe(list.length);
        expect([...results.list]).toEqual(sorted(list));
        const { base } = results;
        if (base === null) continue;
        expect([...base.results.set.copy().minus(DocSet.of(DOCS, base.others)).list()]).toEqual(sorted(list));
        expect(base.others.length).toBeLessThan(list.length);
        expect(base.isWhole).toBe(base.results.set.count() === DOCS && base.results.set !== within);
      }
      expect(new Results(DocSet.of(DOCS, list)).base !== null).toBe(list.length * 2 > DOCS);
      if (size < 2 * list.length) expect(new Results(DocSet.of(DOCS, list), within).base?.results.set).toBe(within);
    }),
  );
});

test('memory is used again from search to search, but never that of a set that is kept', () => {
  const kept = DocSet.scoped(() => DocSet.of(DOCS, [1, 2, 3]).keep());
  const lost = DocSet.scoped(() => DocSet.of(DOCS, [4]));
  const next = DocSet.scoped(() => {
    const set = new DocSet(DOCS);
    expect(set.isEmpty()).toBe(true);
    expect(set.bits).toBe(lost.bits);
    set.add(9);
    return set;
  });
  expect(next.bits).not.toBe(kept.bits);
  expect([...kept.list()]).toEqual([1, 2, 3]);
  expect(() =>
    DocSet.scoped(() => {
      throw new Error('ended early');
    }),
  ).toThrow('ended early');
  // Outside a search nothing is taken from what others may still hold.
  expect(new DocSet(DOCS).bits).not.toBe(next.bits);
});
