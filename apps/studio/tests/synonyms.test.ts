import type { SynonymGroup } from '@yucca/contract';
import fc from 'fast-check';
import { troublesIn, withMerged } from '../src/features/tuning/synonyms/troubles';
import { variantsOf } from '../src/features/tuning/synonyms/variants';
import { synonymsFromCsv, synonymsToCsv } from '../src/server/synonyms/csv';
import { synonymsFromSkos, synonymsToTurtle } from '../src/server/synonyms/skos';

const same = (...words: string[]): SynonymGroup => ({ kind: 'same', words });
const oneWay = (from: string[], to: string[]): SynonymGroup => ({ kind: 'oneWay', from, to });

/** What leads to what: two lists of groups that lead to the same are the same to a search. */
function leads(groups: readonly SynonymGroup[]): string[] {
  const pairs = groups.flatMap((group) => {
    const [from, to] = group.kind === 'same' ? [group.words, group.words] : [group.from, group.to];
    return from.flatMap((a) => to.filter((b) => b !== a).map((b) => `${a} > ${b}`));
  });
  return [...new Set(pairs)].sort();
}

const word = fc.constantFrom('agave', 'snake plant', 'château "rosé"', 'mother-in-law; tongue', 'a,b', 'ü', "l'ail");
const words = (least: number) => fc.uniqueArray(word, { minLength: least, maxLength: 3 });
const group: fc.Arbitrary<SynonymGroup> = fc.oneof(
  words(2).map((list) => same(...list)),
  fc.tuple(words(1), words(1)).map(([from, to]) => oneWay(from, to)),
);

test('CSV and SKOS bring back what they were given', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(group, { maxLength: 5 }), async (groups) => {
      expect(leads(synonymsFromCsv(synonymsToCsv(groups)).groups)).toEqual(leads(groups));
      const read = await synonymsFromSkos(await synonymsToTurtle(groups, 'en'), 'text/turtle');
      expect(leads(read.groups)).toEqual(leads(groups));
    }),
    { numRuns: 60 },
  );
});

test('a spreadsheet without kinds is a list of groups; what is no group is named', () => {
  expect(synonymsFromCsv('snake plant;sansevieria\nalone;\noneWay;succulent;agave;aloe')).toEqual({
    groups: [same('snake plant', 'sansevieria'), oneWay(['succulent'], ['agave', 'aloe'])],
    ignored: ['Row 2 holds fewer than two words: alone, '],
  });
  expect(() => synonymsFromCsv('a,"b\nc')).toThrow('The CSV cannot be read');
});

test('SKOS in its three forms', async () => {
  const rdf = `<rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#" xmlns:skos="http://www.w3.org/2004/02/skos/core#">
    <skos:Concept rdf:about="urn:x:1"><skos:prefLabel>fuchsia</skos:prefLabel><skos:altLabel>lady's eardrops</skos:altLabel>
    <skos:hiddenLabel>fushia</skos:hiddenLabel></skos:Concept></rdf:RDF>`;
  const wanted = [same('fuchsia', "lady's eardrops"), oneWay(['fushia'], ['fuchsia'])];
  expect((await synonymsFromSkos(rdf, 'application/rdf+xml')).groups).toEqual(wanted);
  const ld = {
    '@context': { skos: 'http://www.w3.org/2004/02/skos/core#' },
    '@id': 'urn:x:1',
    'skos:prefLabel': 'fuchsia',
    'skos:altLabel': "lady's eardrops",
    'skos:hiddenLabel': 'fushia',
  };
  expect((await synonymsFromSkos(JSON.stringify(ld), 'application/ld+json')).groups).toEqual(wanted);
  const turtle = `@prefix skos: <http://www.w3.org/2004/02/skos/core#> .
    <#s> skos:prefLabel "succulent" . <#a> skos:broader <#s> ; skos:prefLabel "agave" . <#z> skos:prefLabel "alone" .`;
  expect(await synonymsFromSkos(turtle, 'text/turtle')).toEqual({
    groups: [oneWay(['succulent'], ['agave'])],
    ignored: ['“alone” has no other label.'],
  });
  await expect(synonymsFromSkos('no turtle', 'text/turtle')).rejects.toThrow('The Turtle cannot be read');
  await expect(synonymsFromSkos('<a></b>', 'application/rdf+xml')).rejects.toThrow('The RDF/XML cannot be read');
  // A file that asks for something from elsewhere is refused: nothing is fetched because of it.
  const remote = JSON.stringify({ '@context': 'https://quillbrook.example/context', 'skos:prefLabel': 'x' });
  await expect(synonymsFromSkos(remote, 'application/ld+json')).rejects.toThrow('write it into the file');
});

describe('groups in each other’s way', () => {
  test('repeats, loops and chains are named, with the group that would mend them', () => {
    const groups = [same('a', 'b'), same('b', 'c'), oneWay(['x'], ['y']), oneWay(['y'], ['x']), same('B', 'a'), oneWay(['q'], ['q'])]; // prettier-ignore
    const found = troublesIn(groups);
    expect(found.map(({ sentence }) => sentence)).toEqual([
      '“B = a” is in the list twice.',
      '“y” leads to “x” and back: they mean the same.',
      '“q” leads to itself, which does nothing.',
      '“b” is in 3 groups: “a” does not find “c”, as synonyms go one step.',
    ]);
    expect(withMerged(groups, found[1]!)).toEqual([groups[0], groups[1], same('y', 'x'), groups[4], groups[5]]);
    expect(withMerged(groups, found[2]!)).toHaveLength(5);
    expect(troublesIn([same('a', 'b'), oneWay(['c'], ['a', 'b'])])).toEqual([]);
  });

  test('merging always leads to an end', () => {
    const short = fc.constantFrom(...'abcd');
    const any = fc.oneof(
      fc.uniqueArray(short, { minLength: 2, maxLength: 3 }).map((list) => same(...list)),
      fc.tuple(short, short).map(([from, to]) => oneWay([from], [to])),
    );
    fc.assert(
      fc.property(fc.array(any, { maxLength: 6 }), (start) => {
        let groups: SynonymGroup[] = start;
        for (let turn = 0; turn <= 12; turn++) {
          const [first] = troublesIn(groups);
          if (first === undefined) return;
          groups = withMerged(groups, first);
        }
        expect(troublesIn(groups)).toEqual([]);
      }),
    );
  });

  test('what it costs grows with the groups, not with their pairs', () => {
    const best = (groups: SynonymGroup[]): number =>
      Math.min(
        ...[1, 2, 3, 4, 5].map(() => {
          const start = performance.now();
          expect(troublesIn(groups)).toEqual([]);
          return performance.now() - start;
        }),
      );
    const many = Array.from({ length: 20_000 }, (_, i) => same(`word ${i}`, `other ${i}`));
    // Ten times the groups; each looked at beside each other would be a hundred times the work. A busy machine takes
    // the larger list up to some forty times as long, because it fits into no cache.
    expect(best(many)).toBeLessThan(70 * best(many.slice(0, 2_000)));
  });
});

test('other ways to write a word', () => {
  const { forms, sounds, slips } = variantsOf('Fuchsia');
  expect(sounds).toContain('fushia');
  expect(forms).toContain('fuchsias');
  expect(slips).toContain('fuhcsia');
  expect(variantsOf('berry').forms).toContain('berries');
  expect(variantsOf('snake plant').slips[0]).toBe('snakeplant');
  expect(variantsOf('x2')).toEqual({ forms: [], sounds: [], slips: [] });
  fc.assert(
    fc.property(fc.string(), (text) => {
      const all = Object.values(variantsOf(text)).flat() as string[];
      expect(new Set(all).size).toBe(all.length);
      expect(all).not.toContain(text.trim().toLowerCase());
    }),
  );
});
